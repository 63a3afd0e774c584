"""Fresh Ladle: a workbench for dressings, dips and salads."""

import os

# The matrices here are small: threads of the algebra library get in each other's way, and in that
# of other processes.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
os.environ.setdefault("OMP_NUM_THREADS", "1")
