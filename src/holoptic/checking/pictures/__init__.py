"""Picture work on drawn sheets; the only room that imports OpenCV. The window never imports it."""
