"""The desk: the Qt window. It shows what the core computes and holds no geometry of its own."""
