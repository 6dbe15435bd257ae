"""The pages of a planner: its page, the fragment of it that htmx asks for, and saving."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass
from functools import cache, partial
from typing import Any, Generic, TypeVar

from django.http import HttpResponse, HttpResponseNotAllowed, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse

from optics.base import units
from web.hand import panel
from web.hand.asker import Asker, asker
from web.hand.fields import formats_with, opening_in
from web.kept import keeper
from web.kept.escaped import ESCAPED, sentence_of
from web.kept.kinds import Kind
from web.kept.models import NAME_LIMIT, Kept
from web.kept.printed import Opened, address, printed
from web.people.models import Owner
from web.people.owners import OwnedRequest
from web.planner.as_tested import AsTested, as_tested
from web.planner.axis import Axis, Step, axis_from, step_from
from web.planner.folds import Fold
from web.planner.reading import Reading
from web.planner.requests import HtmxHttpRequest, Shown, query_before, shown
from web.ui.limits import MOST_LINK

Said = TypeVar("Said", bound=Reading)


@dataclass(frozen=True, slots=True)
class Asked(Generic[Said]):
    """What an answer is asked for.

    ``held``  where a hand has just moved something to, mm; None if none has.
    ``axis``  the ends of the drawn axis, to be kept while it does.
    """

    reading: Said
    who: Asker
    owner: Owner
    shown: Shown
    held: float | None
    axis: Axis | None


class Pages(ABC, Generic[Said]):
    """What the pages of planners have in common; each says what is its own.

    ``kind``  of what it keeps; ``gear``: every text of its link with what it opens with;
    ``sample``: the name of that; ``folds``: what is folded below its answer.
    """

    kind: Kind
    gear: Mapping[str, str]
    sample: str
    folds: tuple[Fold, ...]

    @abstractmethod
    def read(self, data: QueryDict, before: Callable[[], QueryDict | None], who: Asker) -> Said:
        """Check everything a form or link says."""

    @abstractmethod
    def turned(self, reading: Said, step: Step, axis: Axis, at: str) -> tuple[Said, float | None]:
        """The reading with what is drawn on the axis moved, and where to, mm. ``at``: which."""

    @abstractmethod
    def answered(self, asked: Asked[Said]) -> dict[str, Any]:
        """What the fragment is drawn from."""

    @abstractmethod
    def around(self, reading: Said, owner: Owner) -> dict[str, Any]:
        """What the page needs besides."""

    def beside(self, kept: Kept | None) -> dict[str, Any]:
        """Ways from here to other pages of the same."""
        return {}

    def is_said(self, data: Mapping[str, Any]) -> bool:
        """Whether a link says anything about this planner at all."""
        return any(name in data for name in self.gear)

    def link_of(self, texts: Mapping[str, str]) -> QueryDict:
        """What it opens with as a link, with these texts."""
        link = QueryDict(mutable=True)
        link.update(texts)
        return link

    def rewritten(
        self, request: HtmxHttpRequest, reading: Said, who: Asker
    ) -> tuple[Said, dict[str, Any]]:
        """The reading after what a fragment may be asked to do with what is typed, and what the
        fragment needs then."""
        return reading, {}

    # Pages --------------------------------------------------------------------------------

    def page(self, request: HtmxHttpRequest, key: int | None = None) -> HttpResponse:
        """From the link, from what is kept, or the sample; the fragment alone for htmx."""
        if request.method == "POST":
            if not request.htmx:
                return HttpResponseNotAllowed(["GET", "HEAD"])
            request.GET = request.POST  # too long to be asked for in an address
        kept = self._kept(request.owner, key)
        who = asker(request)
        data = self._data(request, kept)
        try:
            reading = self.read(data, partial(query_before, request), who)
            return self._shown(request, reading, kept, who)
        except ESCAPED as error:
            return self._shown(request, self._standing_in(data, who, error), kept, who)

    def _standing_in(self, data: QueryDict, who: Asker, error: Exception) -> Said:
        """What the planner opens with, under what is typed, with why that is not shown."""
        plain = QueryDict(mutable=True)
        plain.update(opening_in(data.get("units", ""), self.gear))
        stands_in = self.read(plain, lambda: None, who)
        told = f"{sentence_of(error)} Shown with {self.sample} meanwhile."
        return stands_in.with_texts_of(data, told)

    def _shown(
        self, request: HtmxHttpRequest, reading: Said, kept: Kept | None, who: Asker
    ) -> HttpResponse:
        if (system := request.GET.get("read_in")) in units.SYSTEMS:
            return redirect(f"{request.path}?{reading.in_units(system).query()}")
        if not request.htmx or request.htmx.history_restore_request:
            name = kept.name if kept else self.sample if self._is_sample(request, kept) else ""
            context = self._whole(request, reading, kept, who, name)
            return render(request, f"{self.kind.app}/page.html", context)
        held, axis = None, axis_from(request.GET)
        if (step := step_from(request.GET)) is not None and axis is not None:
            reading, held = self.turned(reading, step, axis, request.GET.get("at", ""))
        reading, more = self.rewritten(request, reading, who)
        context = self._context(request, reading, kept, who, held, None if held is None else axis)
        link = reading.query()  # right or wrong: a reload loses nothing
        posted = request.method == "POST"
        context |= {"posted_link": link if posted and held is None else None}
        response = render(request, f"{self.kind.app}/fragment.html", context | more)
        if not posted:
            response["HX-Replace-Url"] = "false" if held is not None else f"{request.path}?{link}"
        return response

    def save(self, request: HtmxHttpRequest, key: int | None = None) -> HttpResponse:
        """Keep under a name, and go there; or the page again, saying what is wrong."""
        who = asker(request)
        data = QueryDict(request.POST.get("state", ""))
        try:
            reading = self.read(data, lambda: None, who)
            self.answered(Asked(reading, who, request.owner, Shown((), [], []), None, None))
        except ESCAPED as error:
            reading = self._standing_in(data, who, error)
        kept = keeper.keep(request, self.kind, reading, key)
        if not isinstance(kept, keeper.NotKept):
            return redirect(kept.get_absolute_url())
        target = kept.target
        context = self._whole(request, reading, target, who, request.POST.get("name", ""))
        context |= {"name_error": kept.why, "saved": False if target else None, "sample": False}
        context["note"] = request.POST.get("note", "")
        context["note_error"] = kept.about_note
        context["path"] = target.get_absolute_url() if target else self._address("page")
        return render(request, f"{self.kind.app}/page.html", context, status=kept.status)

    def opened(self, request: OwnedRequest, key: int | None) -> Opened[Said]:
        """What a request for a page beside the planner is about. A 404 for nothing of theirs."""
        kept = self._kept(request.owner, key)
        name = request.GET.get("name", "")[:NAME_LIMIT] or (kept.name if kept else "")
        if self._is_sample(request, kept):
            name = name or self.sample
        who = asker(request)
        reading = self.read(self._data(request, kept), lambda: None, who)
        return Opened(reading, name, kept.note if kept else "", who)

    def address(self, page: str, key: int | None) -> str:
        """Where a page beside the planner is: ``page`` by itself, ``kept_…`` of what is kept."""
        return self._address(page) if key is None else self._address(f"kept_{page}", key)

    def back(self, request: OwnedRequest, key: int | None, query: str) -> str:
        """Where a page beside the planner leads back to."""
        there = self._address("page") if key is None else self.kind.opens(key)
        return f"{there}?{query}" if self.is_said(request.GET) else there

    def _address(self, page: str, *key: int) -> str:
        name = f"{self.kind.app}:{page}"
        return reverse(name, args=key) if key else _address_of(name)

    def _kept(self, owner: Owner, key: int | None) -> Kept | None:
        return None if key is None else keeper.of(owner, key, self.kind)

    def _data(self, request: OwnedRequest, kept: Kept | None) -> QueryDict:
        """What the page is about: the link, what is kept, or what the planner opens with."""
        if self.is_said(request.GET):
            return request.GET
        return self._opening(request.owner) if kept is None else keeper.query_of(kept)

    def _opening(self, owner: Owner) -> QueryDict:
        """The sample; for those who have a bag of their own, with what was last in hand."""
        if owner.is_sample:
            return self.link_of(opening_in(owner.units, self.gear))
        return self.link_of(panel.gear_of(owner, self.gear))

    def _is_sample(self, request: OwnedRequest, kept: Kept | None) -> bool:
        return kept is None and not self.is_said(request.GET)

    def _context(
        self,
        request: HtmxHttpRequest,
        reading: Said,
        kept: Kept | None,
        who: Asker,
        held: float | None = None,
        axis: Axis | None = None,
    ) -> dict[str, Any]:
        on_page = shown(request, (fold.id for fold in self.folds))
        saved = None
        if kept is not None:
            same_hand = Asker(in_use=lambda texts: reading.in_use)
            with suppress(*ESCAPED):
                as_kept = self.read(keeper.query_of(kept), lambda: None, same_hand)
                saved = as_kept.query() == reading.query()
        return {
            "reading": reading,
            "errors": reading.errors,
            "texts": reading.texts,
            "messages": reading.messages,
            "rescaled": reading.hand.rescaled,
            "kept": kept,
            "saved": saved,
            "sample": self._is_sample(request, kept),
            "path": request.path,
            "unfolded": on_page.unfolded,
            "opened": on_page.opened,
            "folds": self.folds,
            "tested": None if reading.errors else self._tested(reading, who),
            **self._paper(kept),
            **self.beside(kept),
            **self.answered(Asked(reading, who, request.owner, on_page, held, axis)),
        }

    def _tested(self, reading: Said, who: Asker) -> AsTested | None:
        """What its answer says of the tests of the lens in hand."""
        return as_tested(
            self.kind, reading, who, lambda link, who: self.read(link, lambda: None, who)
        )

    def _paper(self, kept: Kept | None) -> dict[str, str]:
        """The way to its usual card or sheet."""
        how = printed(self.kind.key)
        if how is None:
            return {}
        face, key = how.faces[0], None if kept is None else kept.pk
        return {"sheet_path": address(self.kind.key, face.key, key), "sheet_name": face.name}

    def _whole(
        self, request: HtmxHttpRequest, reading: Said, kept: Kept | None, who: Asker, name: str
    ) -> dict[str, Any]:
        app = self.kind.app
        save = self._address("save") if kept is None else self._address("save_kept", kept.pk)
        return self._context(request, reading, kept, who) | {
            "hand": panel.hand(request.owner, reading.texts),
            "name": name,
            "name_limit": NAME_LIMIT,
            "most_link": MOST_LINK,
            "quiet": " ".join(reading.quiet),
            "note": kept.note if kept else "",
            "formats": formats_with(reading.hand.frame),
            "engraved": [units.significant(n, 3) for n in reading.hand.kit.apertures],
            "notes": reading.notes,
            "screen": app,
            "kind": self.kind,
            "list_path": f"{reverse('kept:page')}?kind={self.kind.key}",
            "new_path": f"{self._address('page')}?{reading.gear_query}",
            "save_path": save,
            "link_path": self._address("page"),
            **self.around(reading, request.owner),
        }


@cache
def _address_of(name: str) -> str:
    """An address without a key, looked up once: it is asked at every answer."""
    return reverse(name)
