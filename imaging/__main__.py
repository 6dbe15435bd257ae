"""python -m imaging: see ``imaging.command``."""

import sys

from imaging.command import main

if __name__ == "__main__":
    sys.exit(main())
