"""python -m optics: see ``optics.command``."""

import sys

from optics.command.main import main

if __name__ == "__main__":
    sys.exit(main())
