"""How each line of a picture is constructed by hand: ovals, tangents, offsets, figures."""
