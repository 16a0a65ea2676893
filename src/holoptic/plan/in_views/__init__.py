"""The plan for orthographic views: laid out, ruled in light lines, carried from view to view."""
