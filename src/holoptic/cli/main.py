"""The `holoptic` command: parse, run, and turn every trouble into one line and an exit code.

0 = done, 2 = bad input, 1 = internal error.
"""

from __future__ import annotations

import argparse
import logging
import os
import sys

from holoptic.catalogue import tr
from holoptic.cli.parser import command_parser
from holoptic.cli.signals import ended_by_signals
from holoptic.cli.targets import require_target
from holoptic.diagnostics import start_log
from holoptic.errors import BadInput, HolopticError, KernelTrouble, PartError
from holoptic.quoting import name_of, one_line

_LOG = logging.getLogger(__name__)


def main(arguments: list[str] | None = None) -> int:
    """Run the command and return its exit code."""
    options = argparse.Namespace()
    try:
        options = command_parser().parse_args(arguments)
        require_target(options)
        start_log(options.log_level or "warning", options.log_file)
        with ended_by_signals():
            code = int(options.run(options) or 0)
        sys.stdout.flush()
    except (BadInput, PartError) as error:
        _complain(str(error))
        return 2
    except KernelTrouble as error:
        # what the kernel cannot take is the fault of what it was given
        source = getattr(options, "views", None) or getattr(options, "source", None)
        _complain(f"{name_of(source)}: {error}" if isinstance(source, str) else str(error))
        return 2 if source else 1
    except HolopticError as error:
        _complain(str(error))
        return 1
    except BrokenPipeError:
        # nobody reads any more; Python would complain once more at its end
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except KeyboardInterrupt:
        return 130
    except Exception as error:
        _LOG.exception("internal error")
        _complain(
            tr(
                "internal error, please report it: {name}: {error}",
                name=type(error).__name__,
                error=one_line(str(error), 200),
            )
        )
        return 1
    return code


def _complain(message: str) -> None:
    print("holoptic: " + one_line(" ".join(message.split())), file=sys.stderr)
