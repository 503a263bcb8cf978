"""Fern Match: from a candy bar's label and a few weighings to a batch to weigh out."""

import os

__version__ = "0.1.0"

# One thread for each computation: with small arrays a second one only waits, and a slow estimate takes five times as long.
for _threads in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS"):
    os.environ.setdefault(_threads, "1")
