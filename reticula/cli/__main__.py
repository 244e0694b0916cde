"""``python -m reticula.cli``."""

import sys

from reticula.cli import main

if __name__ == "__main__":
    sys.exit(main())
