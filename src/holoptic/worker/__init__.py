"""The kernel's own process, and the window's end of the line to it."""
