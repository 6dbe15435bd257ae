"""What tests found of a lens, as it is shown: each by itself, and several of one thing together."""

from __future__ import annotations

from dataclasses import dataclass

from optics.lens.found import Found
from web.bag import counted, findings
from web.bag.models import Lens
from web.bench.models import Thumbnail


@dataclass(frozen=True, slots=True)
class ShownFinding:
    """A finding, whether it does not agree with the others of its thing, and its frames."""

    finding: findings.Finding
    odd: bool
    frames: tuple[Thumbnail, ...]

    @property
    def by_aperture(self) -> bool:
        """Whether it has a value for each aperture."""
        return self.finding.kind in findings.BY_APERTURE


def shown_findings(lens: Lens) -> list[ShownFinding]:
    """What tests found of a lens, the last first."""
    found = lens.found
    odd_ones = {
        one.key for group in counted.alike(found) if (one := counted.odd(group)) is not None
    }
    keys = [one.key for one in found]
    small: dict[str, list[Thumbnail]] = {key: [] for key in keys}
    for frame in Thumbnail.objects.filter(owner=lens.owner, finding__in=keys).defer("small"):
        small[frame.finding].append(frame)
    return [
        ShownFinding(one, one.key in odd_ones, tuple(small[one.key])) for one in reversed(found)
    ]


@dataclass(frozen=True, slots=True)
class Together:
    """What several findings of one thing that are used come to, and where near and far disagree.
    ``first``: one of them, which says what they are of."""

    first: findings.Finding
    rows: tuple[findings.Row, ...]
    count: int
    disagree: counted.Disagreement | None

    @property
    def by_aperture(self) -> bool:
        """Whether there is a value for each aperture."""
        return self.first.kind in findings.BY_APERTURE

    @property
    def value(self) -> Found:
        """All there is of what does not go by aperture."""
        return self.rows[0].found


def together(lens: Lens) -> list[Together]:
    """What is known of a lens by several tests that are used."""
    laid = []
    for group in counted.alike(one for one in lens.found if one.used):
        if len(group) < 2:
            continue
        rows = counted.combined(group)
        if group[0].kind not in findings.BY_APERTURE:
            rows = (findings.Row(rows[0].f_number, counted.value_of(group)),)
        laid.append(Together(group[0], rows, len(group), counted.near_and_far(group)))
    return laid
