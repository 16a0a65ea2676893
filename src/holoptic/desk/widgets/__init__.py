"""Fields, rows, notices and menus that several pages use."""
