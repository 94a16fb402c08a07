"""Trebb: a bench companion for rebuilding worn machine tools."""

import os

# Our matrices have some dozens of rows: threads of the algebra library cost more there than they save, most
# of all on two cores.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.22.0"
