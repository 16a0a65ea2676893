"""`python -m holoptic` does what the `holoptic` command does."""

import sys

if __name__ == "__main__":
    if not sys.flags.safe_path:
        # `-m` puts the working folder first, and what lies there would be run for a module
        del sys.path[0]

    from holoptic.cli.main import main

    sys.exit(main())
