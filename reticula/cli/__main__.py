"""``python -m reticula.cli``."""

import sys

from reticula.cli import main
from reticula.core.memory import keep_freed_memory

if __name__ == "__main__":
    keep_freed_memory()
    sys.exit(main())
