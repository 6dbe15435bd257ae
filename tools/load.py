"""Visitors at once, against a server that runs: python tools/load.py URL [--visitors N]

A closed loop: each visitor asks, waits for the answer, looks at it for a while, and asks again,
each from an address of its own. Three in five look at planners and their fragments, some read
lists and the bag, one in eight saves, one in fifty prints. Prints codes, times, and memory.
"""

from __future__ import annotations

import argparse
import collections
import http.client
import random
import re
import statistics
import sys
import threading
import time
from urllib.parse import urlencode, urlsplit

SCENES = (
    "/view/", "/street/", "/sky/", "/view/?focal_length_mm=35&f_number=8&lens=&mark_name=Post&"
    "mark_distance=3+m&mark_role=must&mark_name=Hill&mark_distance=inf&mark_role=must",
    "/street/?f_number=11&like=2+m&count=2", "/sky/?focal_length_mm=24&f_number=2.8&lens=",
)  # fmt: skip
LISTS = ("/bag/", "/kept/", "/you/", "/bag/standards/", "/cards/plan/sheet/", "/cards/night/card/")


class Visitor(threading.Thread):
    """Somebody with a browser."""

    def __init__(self, number: int, url: str, book: Book, options: argparse.Namespace) -> None:
        super().__init__(daemon=True)
        self.dice = random.Random(number)
        parts = urlsplit(url)
        self.host, self.port = parts.hostname or "localhost", parts.port or 80
        self.where = f"10.{number // 65536}.{number // 256 % 256}.{number % 256}"
        self.book, self.pdf, self.think = book, options.pdf, options.think
        self.cookies: dict[str, str] = {}
        self.token = ""

    def run(self) -> None:
        time.sleep(self.dice.random() * self.think)
        while self.book.more():
            kind, method, path, body = self.next()
            begun = time.monotonic()
            try:
                code = self.ask(method, path, body)
            except (OSError, http.client.HTTPException):
                code = 0
            self.book.add(kind, code, time.monotonic() - begun)
            time.sleep(self.dice.expovariate(1.0) * self.think)

    def next(self) -> tuple[str, str, str, str]:
        """What to ask: of what kind, how, where, and with what."""
        chance = self.dice.random()
        if chance < self.pdf:
            return "pdf", "GET", "/cards/plan/sheet.pdf", ""
        if chance < self.pdf + 0.12 and self.token:
            fields = {"name": f"Plan {self.dice.randint(1, 9999)}", "state": "", "note": "By load",
                      "csrfmiddlewaretoken": self.token}  # fmt: skip
            return "save", "POST", "/view/save/", urlencode(fields)
        if chance < self.pdf + 0.3:
            return "list", "GET", self.dice.choice(LISTS), ""
        edit = self.dice.random() < 0.6
        return "edit" if edit else "look", "GET", self.dice.choice(SCENES), ""

    def ask(self, method: str, path: str, body: str) -> int:
        """The status of an answer; its cookies and its token are kept."""
        asking = http.client.HTTPConnection(self.host, self.port, timeout=60)
        headers = {"Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()),
                   "X-Forwarded-For": self.where, "X-Forwarded-Proto": "https", "Host": self.host,
                   "Referer": f"https://{self.host}/", "Accept-Encoding": "gzip"}  # fmt: skip
        if body:
            headers["Content-Type"] = "application/x-www-form-urlencoded"
        asking.request(method, path, body or None, headers)
        answer = asking.getresponse()
        data = answer.read()
        asking.close()
        for name, text in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, value = text.partition(";")[0].partition("=")
                self.cookies[key] = value
        self.token = self.cookies.get("csrftoken", "")
        self.book.bytes += len(data)
        return answer.status


class Book:
    """What was answered."""

    def __init__(self, most: int) -> None:
        self.lock, self.left, self.bytes = threading.Lock(), most, 0
        self.times: dict[str, list[float]] = collections.defaultdict(list)
        self.codes: collections.Counter[tuple[str, int]] = collections.Counter()

    def more(self) -> bool:
        """Whether there is one more to ask."""
        with self.lock:
            self.left -= 1
            return self.left >= 0

    def add(self, kind: str, code: int, took: float) -> None:
        """One more answer."""
        with self.lock:
            self.codes[kind, code] += 1
            self.times[kind].append(took)


def memory(pid: int) -> int:
    """Of a process and its children, kB."""
    total, queue = 0, [pid]
    while queue:
        one = queue.pop()
        try:
            with open(f"/proc/{one}/status") as file:  # noqa: PTH123
                found = re.search(r"VmRSS:\s+(\d+)", file.read())
            total += int(found[1]) if found else 0
            with open(f"/proc/{one}/task/{one}/children") as file:  # noqa: PTH123
                queue += map(int, file.read().split())
        except OSError:
            continue
    return total


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("url")
    parser.add_argument("--visitors", type=int, default=300)
    parser.add_argument("--requests", type=int, default=10_000)
    parser.add_argument("--pdf", type=float, default=0.02)
    parser.add_argument("--think", type=float, default=20.0, help="s between a visitor's requests")
    parser.add_argument("--pid", type=int, default=0, help="the server's, to see its memory")
    options = parser.parse_args()
    book = Book(options.requests)
    visitors = [Visitor(n, options.url, book, options) for n in range(options.visitors)]
    begun = time.monotonic()
    for one in visitors:
        one.start()
    told = options.requests
    while sum(book.codes.values()) < options.requests:
        time.sleep(0.5)
        if book.left < told:
            told -= max(options.requests // 10, 1)
            rss = f", {memory(options.pid) // 1000} MB" if options.pid else ""
            print(f"{options.requests - max(book.left, 0)} asked{rss}", flush=True)
    spent = time.monotonic() - begun
    print(
        f"\n{options.requests} requests in {spent:.1f} s: {options.requests / spent:.0f} a second"
    )
    for kind in sorted(book.times):
        times = sorted(book.times[kind])
        codes = {code: count for (name, code), count in sorted(book.codes.items()) if name == kind}
        p95 = times[int(len(times) * 0.95)]
        print(f"{kind:5} {len(times):6}  median {statistics.median(times):.2f} s  "
              f"p95 {p95:.2f} s  longest {times[-1]:.2f} s  {codes}")  # fmt: skip
    bad = sum(count for (_, code), count in book.codes.items() if code == 0 or code in (500, 502))
    print(f"broke: {bad}")
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
