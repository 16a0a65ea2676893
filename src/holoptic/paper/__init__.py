"""Views on paper: PDF and SVG with lines, scans and photos, each made the lines that Read knows."""
