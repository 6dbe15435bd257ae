"""python -m simulator: see ``simulator.command``."""

import sys

from simulator.command import main

if __name__ == "__main__":
    sys.exit(main())
