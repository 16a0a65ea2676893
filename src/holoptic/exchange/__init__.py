"""Files in and out: job file, SVG, PDF, PNG, JSON, CSV, text. All open formats."""
