"""`python -m holoptic` does what the `holoptic` command does."""

import sys

from holoptic.cli.main import main

if __name__ == "__main__":
    sys.exit(main())
