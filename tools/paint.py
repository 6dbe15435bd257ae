"""How soon a phone on a slow line sees the answer: python -m tools.paint URL [PATH ...]

Against a server that runs. Headless Chromium at 390 × 844 with nothing in its cache, 1.6 Mbit/s and
150 ms to and fro: prints, for each page, bytes and requests as they came over the line, and when
its first answer was painted, five times.
"""

from __future__ import annotations

import json
import sys
from typing import Any

from selenium import webdriver
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser import chromium

PAGES = ("/view/", "/street/", "/sky/")
TIMES = 5
LINE = {"offline": False, "latency": 150, "downloadThroughput": 200_000, "uploadThroughput": 93_750}
PAINTED = (
    "const p = performance.getEntriesByName('first-contentful-paint')[0];"
    "const answer = document.querySelector('main output');"
    "return p && answer && document.readyState === 'complete' ? p.startTime : null"
)


def browser() -> webdriver.Chrome:
    """A phone that keeps what goes over the line."""
    driver = chromium.start()
    chromium.resize(driver, chromium.NARROW, touch=True)
    driver.execute_cdp_cmd("Network.enable", {})
    driver.execute_cdp_cmd("Network.emulateNetworkConditions", LINE)
    return driver


def received(driver: webdriver.Chrome) -> tuple[int, int]:
    """Bytes and requests of the page that is open."""
    script = (
        "return [...performance.getEntriesByType('navigation'),"
        " ...performance.getEntriesByType('resource')].map((e) => e.transferSize)"
    )
    sizes: list[Any] = driver.execute_script(script)
    return sum(sizes), len(sizes)


def seen(driver: webdriver.Chrome, address: str) -> dict[str, Any]:
    """One page, as somebody who was never here before sees it."""
    driver.get("about:blank")
    driver.execute_cdp_cmd("Network.clearBrowserCache", {})
    driver.get(address)
    painted = WebDriverWait(driver, 30).until(lambda d: d.execute_script(PAINTED))
    size, requests = received(driver)
    return {"painted_ms": round(painted), "bytes": size, "requests": requests}


def main() -> int:
    """Measure, and print a line for each page."""
    url, *paths = sys.argv[1:] or ("http://127.0.0.1:8000",)
    driver = browser()
    try:
        seen(driver, url + PAGES[0])  # the browser itself is warm then
        for path in paths or PAGES:
            found = [seen(driver, url + path) for _ in range(TIMES)]
            painted = sorted(one["painted_ms"] for one in found)
            print(json.dumps({"page": path, "painted_ms": painted, **_rest(found[-1])}))
    finally:
        driver.quit()
    return 0


def _rest(one: dict[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in one.items() if name != "painted_ms"}


if __name__ == "__main__":
    sys.exit(main())
