"""What a page of Sky claims, held against the numbers that it prints."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import replace

from tests.web.walk.pages import LENGTH, TIME, Node, length, on_a_dial, stretch
from tests.web.walk.scenes import Night


class Page:
    """A page of Sky that was asked for with a night."""

    def __init__(self, night: Night, page: Node) -> None:
        self.night, self.page, self.system = night, page, night.system
        ring, aperture = page.one(id="ring-now"), page.one(id="aperture-now")
        assert ring is not None
        assert aperture is not None
        self.ring = length(ring.words, self.system)
        answers = [one for one in page.all("section") if one.attrs.get("aria-label") == "Answer"]
        self.answer = answers[0].words

    def claims(self) -> Iterator[str]:
        """Everything that does not hold."""
        yield from self.of_the_answer()
        yield from self.of_the_frames()
        yield from self.of_the_margins()

    def of_the_answer(self) -> Iterator[str]:
        night, stars = self.night, self.night.stars
        soft = "No star is that small" in self.answer or "Not even infinity" in self.answer
        both = "Stars and ground in one frame" in self.answer
        margin = 1.0 if both else night.margin
        if not soft and not stars.holds(self.ring, math.inf, within=1 / margin):
            yield f"ring {self.ring}: a star is wider than with a margin of {margin}"
        if both:
            yield from self.of_both()
        found = re.search(rf"sharp from ({LENGTH})", self.answer)
        if found and not soft and not stars.holds(self.ring, length(found[1], self.system)):
            yield f"{found[0]} is not"
        found = re.search(rf"infinity begins at ({LENGTH})", self.answer)
        if found and not soft and not stars.holds(length(found[1], self.system), math.inf):
            yield f"{found[0]} and does not"
        for text in re.findall(rf"({TIME})(?! in all)", self.answer):
            if not on_a_dial(text):
                yield f"no time of a dial: {text}"

    def of_both(self) -> Iterator[str]:
        """Where the ring may stand for stars and ground in one frame."""
        near = self.night.foreground
        found = re.search(rf"Anywhere from ({LENGTH}) to ({LENGTH}|∞) has both", self.answer)
        if found is None or near is None:
            yield "both in one frame, and not from where to where"
            return
        start = max(near, self.night.closest)
        ends = [length(found[1], self.system)]
        ends.append(math.inf if found[2] == "∞" else length(found[2], self.system))
        for ring in (self.ring, *ends):
            if not self.night.stars.holds(ring, math.inf):
                yield f"{ring}: a star is too wide"
            if not self.night.ground.holds(ring, start):
                yield f"{ring}: the ground at {start} is soft"
        if not ends[0] <= self.ring <= ends[1]:
            yield f"the ring at {self.ring} is outside {ends}"

    def of_the_frames(self) -> Iterator[str]:
        night = self.night
        fold = self.page.one(id="fold-foreground")
        assert fold is not None
        if night.foreground is None:
            return
        near = max(night.foreground, night.closest)
        frames, soft = [], False
        for row in fold.rows():
            if len(row) < 8:
                continue
            name, ring, aperture, time, _, sharp, _, _ = row
            lens = replace(night.ground, f_number=float(aperture.removeprefix("f/")))
            focus = length(ring, self.system)
            if not on_a_dial(time):
                yield f"no time of a dial: {time}"
            if sharp == "nothing":
                soft = True
                continue
            ends = re.search(rf"from ({LENGTH})(?: to ({LENGTH}))?$", sharp)
            if ends and ends[2]:
                held = length(ends[1], self.system), length(ends[2], self.system)
            elif ends:
                held = length(ends[1], self.system), math.inf
            else:
                held = stretch(re.sub(r"^(?:from|at) ", "", sharp), self.system)
            if not lens.holds(focus, *held):
                yield f"{name} {ring} {aperture} sharp {sharp}: it is not"
            if name == "Both" and not lens.holds(focus, near):
                yield f"Both {ring} {aperture}: {near} is soft"
            if name in ("Sky", "Ground"):
                frames.append((focus, held))
        if frames and not soft and len(frames) > 1:
            reached = near
            for _, held in sorted(frames):
                if held[0] > reached * (1 + 1e-6):
                    yield f"frames leave {reached} to {held[0]}"
                reached = max(reached, held[1])
        if found := re.search(rf"One frame has both: ({LENGTH})", fold.words):
            same = night.ground.holds(self.ring, near)
            if same and length(found[1], self.system) != self.ring:
                yield f"one frame at {found[1]}, though {self.ring} has the ground too"

    def of_the_margins(self) -> Iterator[str]:
        fold = self.page.one(id="fold-margin")
        assert fold is not None
        stars = self.night.stars
        for margin, ring, _, near, _ in (row for row in fold.rows() if len(row) == 5):
            focus = length(ring, self.system)
            if near != "nothing" and not stars.holds(focus, length(near, self.system)):
                yield f"margin {margin}: {ring} sharp from {near}"
            wanted = 1 / float(margin.split()[0])
            if math.isfinite(focus) and not stars.holds(focus, math.inf, within=wanted):
                yield f"margin {margin}: not at {ring}"
