"""What a page of View claims, held against the numbers that it prints."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from tests.web.walk.pages import (
    LENGTH,
    STRETCH,
    TIME,
    Node,
    length,
    lengths,
    number,
    on_a_dial,
    seconds,
    stretch,
)
from tests.web.walk.scenes import Mark, Scene


class Page:
    """A page of View that was asked for with a scene."""

    def __init__(self, scene: Scene, page: Node) -> None:
        self.scene, self.page, self.system = scene, page, scene.system
        ring, aperture = page.one(id="ring-now"), page.one(id="aperture-now")
        assert ring is not None
        assert aperture is not None
        self.ring = length(ring.words, self.system)
        self.f_number = float(aperture.attrs["data-number"])
        answers = [one for one in page.all("section") if one.attrs.get("aria-label") == "Answer"]
        self.answer = answers[0].words
        self.lens = scene.at(self.f_number)
        self.rings = [self.ring]
        if more := re.search(r"Then (.*?): \d+ frames", self.answer):
            self.rings += lengths(more[1], self.system)

    def fold(self, name: str) -> Node:
        """A part that is unfolded."""
        found = self.page.one(id=f"fold-{name}")
        assert found is not None, name
        return found

    def word(self, mark: Mark, rings: list[float]) -> set[str]:
        """How a mark comes out by these sums; two words where they cannot tell."""
        lens, found = self.lens, set()
        for slack in (-lens.slack, lens.slack):
            best = min(rings, key=lambda r: max(lens.circles(r, d) for d in mark.ends))
            at = lens.circles(best, mark.depth)
            worst = max(at, *(lens.circles(best, d) for d in mark.ends))
            found.add("soft" if at > 1 + slack else "just" if worst > 1 + slack else "holds")
        return found

    def moved(self, mark: Mark) -> set[str]:
        """How a mark comes out when wind moves it for as long as a frame takes."""
        words = self.word(mark, self.rings)
        nearest = min(self.scene.must, key=lambda one: one.depth, default=None)
        time = self.fold("light").one(data_fact="time")
        if mark is not nearest or time is None or self.scene.link.get("leaves") != "breeze":
            return words
        best = min(self.rings, key=lambda r: max(self.lens.circles(r, d) for d in mark.ends))
        if len(self.rings) > 1 and best != self.rings[0]:
            return {*words, "smears"}  # its scale is that of the first frame
        smeared = self.lens.smeared(best, mark.depth, 200.0, seconds(time.words))
        if smeared > 1 + self.lens.slack + 1e-4:
            return {"smears" if one != "soft" else one for one in words}
        return words if smeared < 1 - self.lens.slack - 1e-4 else {*words, "smears"}

    def holds(self, rings: list[float], at: float | None = None) -> bool:
        """Whether all that must be sharp is, at its depth."""
        lens = self.lens if at is None else self.scene.at(at)
        return all(min(lens.circles(r, m.depth) for r in rings) <= 1 + lens.slack
                   for m in self.scene.must)  # fmt: skip

    def claims(self) -> Iterator[str]:
        """Everything that does not hold."""
        yield from self.of_the_answer()
        yield from self.of_the_rows()
        yield from self.of_the_ways()
        yield from self.of_the_rescue()
        yield from self.of_the_aperture()
        yield from self.of_the_light()
        yield from self.of_the_trial()

    def of_the_answer(self) -> Iterator[str]:
        lens, scene = self.lens, self.scene
        if found := re.search(rf"Anywhere {STRETCH} (?:keeps|holds) (.*?)(?:\.|;)", self.answer):
            for end in stretch(found[1], self.system):
                for mark in scene.must:
                    if not lens.holds(end, mark.depth):
                        yield f"window {found[1]}: {mark.letter} is soft at {end}"
                if not scene.must and not lens.holds(end, math.inf):
                    yield f"window {found[1]}: infinity is soft at {end}"
        if found := re.search(rf"Sharp {STRETCH}", self.answer):
            near, far = stretch(found[1], self.system)
            if not lens.cover(self.rings, near, far):
                yield f"sharp {found[1]} is not, rings {self.rings}"
        if "frames that together" in self.answer and scene.must:
            must = [m.depth for m in scene.must]
            if not lens.cover(self.rings, min(must), max(must)):
                yield f"frames {self.rings} leave a gap or lose an end"
        found = re.search(rf"at ({LENGTH}), all hold", self.answer)
        if found and not self.holds([length(found[1], self.system)]):
            yield f"remedy {found[0]} does not"
        if found := re.search(r"f/([\d.]+) would hold all of them(?! in several)", self.answer):
            near = min(m.depth for m in scene.must)
            far = max(m.depth for m in scene.must)
            if not _window(scene, float(found[1]), near, far):
                yield f"remedy {found[0]} does not"
        if re.search(r"Anywhere|that together", self.answer):
            said = r"(?<!setting )(?:keep|hold)s? ([A-D](?:(?:, | and )[A-D])*)"
            named = re.search(said, self.answer)
            for letter in re.findall(r"[A-D]", named[1]) if named else ():
                mark = next(m for m in scene.marks if m.letter == letter)
                if "soft" in (word := self.word(mark, self.rings)) and len(word) == 1:
                    yield f"keeps {letter}, which is soft"

    def of_the_rows(self) -> Iterator[str]:
        lens = self.lens
        for at, mark in enumerate(self.scene.marks):
            said = self.page.one(id=f"verdict-{at}")
            if said is None or not said.words:
                continue
            word = said.one("b")
            assert word is not None
            if word.words not in self.moved(mark):
                yield f"{mark.letter} {word.words}: {self.moved(mark)}"
        table = self.fold("table").rows()
        for (_, _, _, circles, _, word_said), mark in zip(table, self.scene.marks, strict=False):
            best = min(self.rings, key=lambda r: max(lens.circles(r, d) for d in mark.ends))
            yield from self.is_about(circles, lens.circles(best, mark.depth), f"{mark.letter} ×")
            if word_said != "smears":
                yield from says_so(circles, word_said == "soft", f"{mark.letter}")

    def is_about(self, text: str, value: float, what: str) -> Iterator[str]:
        """Whether a printed number is this one, to its figures."""
        shown = number(text)
        unit = 10.0 ** (math.floor(math.log10(value)) - 1) if value > 0.05 else 0.05
        room = 1.01 * unit + 2 * self.lens.slack * max(value, 1)
        if value < 1e3 and abs(shown - value) > room:
            yield f"{what}: {text} is {value:.4g}"

    def of_the_ways(self) -> Iterator[str]:
        lens, must = self.lens, self.scene.must
        letters = {mark.letter: mark for mark in must}
        in_bold = [
            one.words for line in self.fold("ways").all("tr") if "Insurance" in line.words
            for one in line.all("b") if re.match(LENGTH, one.words)
        ]  # fmt: skip
        for row in self.fold("ways").rows():
            if len(row) < 5 or not must:
                continue
            name, ring, keeps, worst, _ = row
            rings = lengths(ring, self.system)
            if name == "Insurance" and len(rings) > 1:
                rings = lengths(in_bold[0], self.system)
            lost = {
                m.letter for m in must
                if min(lens.circles(r, m.depth) for r in rings) > 1 + lens.slack
            }  # fmt: skip
            sure = {
                m.letter for m in must
                if min(lens.circles(r, m.depth) for r in rings) < 1 - lens.slack
            }  # fmt: skip
            said = set(re.findall(r"\b[A-D]\b", keeps)) if "just" not in keeps else set()
            if not lost <= said or said & sure:
                yield f"{name} {ring}: {keeps}, but {sorted(lost)} soft"
            if "all" in keeps:
                for mark in letters.values():
                    if "holds" not in self.word(mark, rings):
                        yield f"{name} {ring}: all, but {mark.letter} {self.word(mark, rings)}"
            value = max(
                lens.circles(min(rings, key=lambda r: max(lens.circles(r, d) for d in m.ends)),
                             m.depth) for m in must
            )  # fmt: skip
            yield from self.is_about(worst, value, f"{name} {ring} worst")
            yield from says_so(worst, bool(said), f"{name}")

    def of_the_rescue(self) -> Iterator[str]:
        scene, lens, must = self.scene, self.lens, self.scene.must
        out = self.fold("rescue")
        if not must:
            return
        near, far = min(m.depth for m in must), max(m.depth for m in must)
        items = out.all("li")
        rings = []
        for item in items:
            ring, small = item.one("b"), item.one("small")
            if ring is None or small is None or item not in _set_of(out):
                continue
            rings.append(length(ring.words, self.system))
            ends = stretch(small.words, self.system)
            if not lens.holds(rings[-1], *ends):
                yield f"frame {ring.words} does not hold {small.words}"
        if rings and not lens.cover(rings, near, far):
            yield f"set of frames leaves a gap: {rings} for {near} to {far}"
        words = out.words
        if found := re.search(r"[Mm]ore frames? at (.*?) would have it sharp", words):
            unsure = re.search(r"distance of Thing ([A-D])", words)
            assert unsure is not None
            mark = next(m for m in scene.marks if m.letter == unsure[1])
            if not lens.cover(lengths(found[1], self.system), *mark.ends):
                yield f"insurance {found[1]} does not cover {mark.ends}"
        is_widest = r"f/([\d.]+) is the widest that holds(?! in several)"
        widest = re.findall(is_widest, self.page.words)
        for stated in widest:
            if not _window(scene, float(stated), near, far):
                yield f"f/{stated} is the widest that holds, and does not"
        said = {*widest}
        if "Nothing is sharp" not in self.answer:
            would = r"f/([\d.]+) would hold all of them(?! in several)"
            said |= {*re.findall(would, self.answer)}
        if len(said) > 1:
            yield f"different widest that hold: {sorted(said)}"
        if found := re.search(r"holds for a print up to ([\d.]+ (?:mm|cm|m)) wide", words):
            frame = {"full-frame": (36, 24), "four-thirds": (17.3, 13)}[scene.link["format"]]
            worst = max(min(lens.circles(r, m.depth) for r in self.rings) for m in must)
            # Seen at 25 cm, a disc of a 1500th of the diagonal of a 30 cm picture: the classic.
            enlarged = _print_width(worst * lens.coc, frame)
            if length(found[1], "m") > enlarged * (1 + lens.slack):
                yield f"print up to {found[1]}: {enlarged:.1f} mm"
        if "Close the aperture" in self.page.words and "Open the aperture" in self.page.words:
            yield "one page says both open and close the aperture"

    def of_the_aperture(self) -> Iterator[str]:
        words = self.fold("aperture").words
        found = re.search(r"f/([\d.]+) is the sharpest.*?: ([\d.]+) times your standard", words)
        if found and "is the widest that holds" in words and float(found[2]) > 1:
            yield f"the sharpest is soft: {found[0]}"

    def of_the_light(self) -> Iterator[str]:
        for text in re.findall(rf"({TIME})", self.fold("light").words):
            if "∞" not in text and not on_a_dial(text):
                yield f"no time of a dial: {text} in {self.fold('light').words[:900]}"
        words = self.fold("light").words
        said = re.search(rf"f/[\d.]+: ({TIME}) at ISO", words)
        if said is None:
            return
        for cause, up_to, crossed in re.findall(rf"(\S+): up to ({TIME})(, crossed)?", words):
            used = seconds(said[1])
            if (used > seconds(up_to) * 1.0001) != bool(crossed):
                yield f"{cause} up to {up_to}{crossed} at {said[1]}"

    def of_the_trial(self) -> Iterator[str]:
        words = self.fold("trial").words
        found = re.search(
            rf".*ring at ({LENGTH}).*?Turn towards (near|infinity), to ({LENGTH})", words
        )
        if found:
            start, to = length(found[1], self.system), length(found[3], self.system)
            if not (to < start if found[2] == "near" else to > start):
                yield f"trial: {found[0]}"


def says_so(text: str, soft: bool, what: str) -> Iterator[str]:
    """Whether a printed multiple of the standard and its word say the same."""
    if (number(text) > 1) != soft:
        yield f"{what}: {text} beside {'soft' if soft else 'not soft'}"


def _set_of(out: Node) -> list[Node]:
    lists = out.all("ol", cls="set")
    return lists[0].all("li") if lists else []


def _print_width(blur: float, frame: tuple[float, float]) -> float:
    """Of the widest print at 25 cm on which a blur is a fifth of a millimetre, mm."""
    return 0.2 / blur * frame[0] if blur > 0 else math.inf


def _window(scene: Scene, f_number: float, near: float, far: float) -> bool:
    """Whether any ring setting holds both at an aperture: tried out in 1/distance."""
    lens = scene.at(f_number)
    low = 0.0
    high = 1 / max(scene.closest, 4.001 * lens.focal_length + lens.hiatus)

    def worst(inverse: float) -> float:
        focus = math.inf if inverse <= 0 else 1 / inverse
        return max(lens.circles(focus, near), lens.circles(focus, far))

    for _ in range(60):
        one, other = low + (high - low) * 0.382, low + (high - low) * 0.618
        low, high = (low, other) if worst(one) < worst(other) else (one, high)
    return worst((low + high) / 2) <= 1 + max(lens.slack, 1e-5)
