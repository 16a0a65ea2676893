"""Pages of lines (PDF, SVG): exact, no picture work."""
