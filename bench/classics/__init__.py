"""The classics of every exercise sheet, as solids: what a drawing of somebody else's may show."""
