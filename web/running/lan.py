"""What ``./aim demo --lan`` says: where the demo is for a phone, as a code to scan, and what it
cannot do there."""

from __future__ import annotations

import sys
from typing import TextIO

import segno

SAID = """
  On a phone in the same network:  {address}

  Anybody in this network can open it, too. By a plain address like this one, phones do not install
  the application and keep no pages for when there is no signal: that needs HTTPS. The cards of a
  lens in one file do without: Cards, a lens, "All in one file".
"""


def tell(address: str, to: TextIO) -> None:
    """Write it."""
    segno.make(address, error="l", micro=False).terminal(out=to, border=2, compact=True)
    to.write(SAID.format(address=address))
    to.flush()


if __name__ == "__main__":
    tell(sys.argv[1], sys.stdout)
