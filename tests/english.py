"""The tests read English, whatever whoever runs them speaks; imported before anything else."""

import os

os.environ |= {"HOLOPTIC_LANGUAGE": "en", "HOLOPTIC_DECIMAL": "point"}
