"""The worker process's way in: `python -m holoptic.worker DESCRIPTOR PARENT`."""

import sys
from multiprocessing.connection import Connection

from holoptic.worker.parting import end_with

if __name__ == "__main__":
    end_with(int(sys.argv[2]))  # before all else: the imports below take a while

    from holoptic.worker.server import serve

    serve(Connection(int(sys.argv[1])))
