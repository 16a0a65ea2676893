"""`python -m holoptic.integration`: lay what makes Holoptic known to a desktop, or take it away."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from holoptic.errors import BadInput
from holoptic.integration.homes import Homes, lay, take_away


def main(arguments: list[str] | None = None) -> int:
    """Run and return the exit code: 0 done, 2 refused with one line."""
    parser = argparse.ArgumentParser(prog="python -m holoptic.integration")
    for name in ("programs", "share", "library"):
        parser.add_argument(f"--{name}", type=Path, required=True, metavar="FOLDER")
    parser.add_argument("--remove", action="store_true")
    options = parser.parse_args(arguments)
    homes = Homes(options.programs, options.share, options.library, Path(sys.executable))
    try:
        told = take_away(homes) if options.remove else lay(homes)
    except (BadInput, OSError) as error:
        print(f"holoptic: {error}", file=sys.stderr)
        return 2
    for line in told:
        print(f"holoptic: {line}", file=sys.stderr)
    return 0


if __name__ == "__main__":
    sys.exit(main())
