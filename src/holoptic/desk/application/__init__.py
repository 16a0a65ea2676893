"""The application: window, its furniture, files, keys, what stands below every page."""
