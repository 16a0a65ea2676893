"""Panes of paper: lines fitted, panned, touched and dragged."""
