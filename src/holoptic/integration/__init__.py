"""What makes Holoptic a citizen of a Linux desktop: launcher, icons, types, manual, completion.

`bin/install` runs `python -m holoptic.integration` from the environment it has made.
"""
