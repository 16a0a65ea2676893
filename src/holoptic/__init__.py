"""Holoptic: a pictorial drafting bench."""

import logging

__version__ = "0.1.0"

# who uses the package says where its log goes; on its own it says nothing
logging.getLogger(__name__).addHandler(logging.NullHandler())
