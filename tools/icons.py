"""The icon as pictures, for devices that take no drawing: python -m tools.icons

Drawn from ``icon.svg`` by the browser, with a margin, so that a device may cut it round.
"""

from __future__ import annotations

import base64
from pathlib import Path

from tests.browser import chromium
from web.ui.offline import ICONS

PLACE = Path(__file__).resolve().parents[1] / "web/ui/static/ui"
MARGIN = 0.14
"""Of each side: a circle in the middle has all of it."""


def main() -> None:
    """Draw them."""
    svg = base64.b64encode((PLACE / "icon.svg").read_bytes()).decode("ascii")
    driver = chromium.start()
    try:
        for size in ICONS:
            chromium.resize(driver, (size, size))
            inner = size * (1 - 2 * MARGIN)
            page = (
                f"<body style='margin:0;background:#f2f0ea;display:grid;place-items:center;"
                f"height:100vh'><img width={inner:g} src='data:image/svg+xml;base64,{svg}'>"
            )
            driver.get("data:text/html," + page.replace("#", "%23"))
            driver.save_screenshot(str(PLACE / f"icon-{size}.png"))
    finally:
        driver.quit()


if __name__ == "__main__":
    main()
