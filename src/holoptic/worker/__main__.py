"""The worker process's way in: `python -m holoptic.worker DESCRIPTOR`."""

import sys
from multiprocessing.connection import Connection

from holoptic.worker.server import serve

if __name__ == "__main__":
    serve(Connection(int(sys.argv[1])))
