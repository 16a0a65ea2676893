"""A Wayland display of one's own, with a keyboard: a compositor that shows itself in an X server in
memory. One without any display behind it has no keyboard, so windows would never become active.

Run: python tests/wayland_display.py COMMAND …, as bin/test --wayland does.
"""

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent))  # it is also run by itself

from virtual_display import virtual_display

_NAME = "bench"
_PATIENCE_S = 20.0


@contextmanager
def wayland_display(wide: int = 1600, high: int = 1100) -> Iterator[dict[str, str]]:
    """Run the compositor; give what a program must have in its environment to be shown there."""
    with (
        tempfile.TemporaryDirectory(prefix="wl") as folder,
        virtual_display(f"{wide}x{high}x24") as display,
    ):
        environment = {**os.environ, "XDG_RUNTIME_DIR": folder, "DISPLAY": display}
        compositor = subprocess.Popen(
            ["weston", "--backend=x11-backend.so", "--use-pixman", "--no-config", "--idle-time=0",
             f"--socket={_NAME}", f"--width={wide}", f"--height={high}"],
            env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        try:
            until = time.monotonic() + _PATIENCE_S
            while not Path(folder, _NAME).exists() and time.monotonic() < until:
                time.sleep(0.05)
            del environment["DISPLAY"]  # nothing may be shown there instead
            yield {**environment, "WAYLAND_DISPLAY": _NAME, "QT_QPA_PLATFORM": "wayland"}
        finally:
            compositor.terminate()
            compositor.wait()


if __name__ == "__main__":
    with wayland_display() as shown:
        sys.exit(subprocess.run(sys.argv[1:], env=shown, check=False).returncode)
