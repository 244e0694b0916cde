"""Builds one kernel: ``python -m reticula.core.language.compiled.build_kernel PATH``.

Runs beside the work, at low priority.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path

from reticula.core.language.compiled.kernel_store import compile_here

if __name__ == "__main__":
    os.nice(15)
    compile_here(Path(sys.argv[1]))
