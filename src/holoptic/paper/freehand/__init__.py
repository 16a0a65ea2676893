"""Views sketched by a free hand: lines by their order and meeting, places by the figures."""
