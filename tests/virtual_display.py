"""A display of one's own for tests that need a real window."""

import os
import shutil
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager

HAS_DISPLAY = shutil.which("Xvfb") is not None


@contextmanager
def virtual_display(size: str = "1280x800x24") -> Iterator[str]:
    """Run an X server in memory; give its name, such as `:3`."""
    read, write = os.pipe()
    server = subprocess.Popen(
        ["Xvfb", "-displayfd", str(write), "-screen", "0", size, "-nolisten", "tcp"],
        pass_fds=[write], stderr=subprocess.DEVNULL,
    )  # fmt: skip
    os.close(write)
    try:
        with os.fdopen(read) as told:
            number = told.readline().strip()  # to its end: the server writes it in two pieces
        yield f":{number}"
    finally:
        server.terminate()
        server.wait()
