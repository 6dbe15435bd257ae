"""The pages of a planner that keeps what is typed: its page, the fragment of it, and saving."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import Any, Generic, Protocol, TypeVar

from django.http import HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse

from optics.base import units
from web.bag import hand
from web.bag.gear import Asker, Message, asker, formats_with
from web.bag.in_use import InUse
from web.bag.keeping import Keeper, NotKept, TextReading
from web.bag.kept import KeptTexts
from web.people.models import Owner
from web.ui.axis import Axis, Step, axis_from, step_from
from web.ui.folds import Fold
from web.ui.planner import HtmxHttpRequest, Shown, query_before, shown


class PlannerReading(TextReading, Protocol):
    """What a planner read, as far as its pages need it."""

    @property
    def errors(self) -> dict[str, str]:
        """What is wrong, by field name."""

    @property
    def in_use(self) -> InUse:
        """What of the bag is in hand."""

    @property
    def messages(self) -> list[Message]:
        """What there is to say, beside which field."""

    @property
    def notes(self) -> dict[str, str]:
        """What is assumed, by field name."""

    @property
    def gear_query(self) -> str:
        """The link to the same gear and nothing else."""

    def query(self) -> str:
        """The link that reproduces this."""

    def in_units(self, system: str) -> Any:
        """The same read in other units."""


Thing = TypeVar("Thing", bound=KeptTexts)
Said = TypeVar("Said", bound=PlannerReading)


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


class Pages(ABC, Generic[Thing, Said]):
    """What the pages of such planners have in common; each says what is its own.

    ``keeper``  keeps its things; ``gear``: every text of its link with what it opens with;
    ``sample``: the name of that; ``folds``: what is folded below its answer.
    """

    keeper: Keeper[Thing]
    gear: Mapping[str, str]
    sample: str
    folds: tuple[Fold, ...]

    @abstractmethod
    def is_said(self, data: Mapping[str, Any]) -> bool:
        """Whether a link says anything about this planner at all."""

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
    def around(self, reading: Said) -> dict[str, Any]:
        """What the page needs besides."""

    @abstractmethod
    def beside(self, kept: Thing | None) -> dict[str, Any]:
        """Ways from here to other pages of the same."""

    def page(self, request: HtmxHttpRequest, key: int | None = None) -> HttpResponse:
        """From the link, from what is kept, or the sample; the fragment alone for htmx."""
        kept = self.keeper.of(request.owner, key)
        data: QueryDict = request.GET
        if not self.is_said(data):
            data = self._opening(request.owner) if kept is None else self.keeper.query_of(kept)
        who = asker(request)
        reading = self.read(data, partial(query_before, request), who)
        if (system := request.GET.get("read_in")) in units.SYSTEMS:
            return redirect(f"{request.path}?{reading.in_units(system).query()}")
        if not request.htmx or request.htmx.history_restore_request:
            name = kept.name if kept else self.sample if self._is_sample(request, kept) else ""
            context = self._whole(request, reading, kept, who, name)
            return render(request, f"{self.keeper.app}/page.html", context)
        held, axis = None, axis_from(request.GET)
        if (step := step_from(request.GET)) is not None and axis is not None:
            reading, held = self.turned(reading, step, axis, request.GET.get("at", ""))
        context = self._context(request, reading, kept, who, held, None if held is None else axis)
        response = render(request, f"{self.keeper.app}/fragment.html", context)
        follow = reading.valid and held is None
        response["HX-Replace-Url"] = f"{request.path}?{reading.query()}" if follow else "false"
        return response

    def save(self, request: HtmxHttpRequest, key: int | None = None) -> HttpResponse:
        """Keep under a name, and go there; or the page again, saying what is wrong."""
        app = self.keeper.app
        reading = self.read(QueryDict(request.POST.get("state", "")), lambda: None, asker(request))
        kept = self.keeper.keep(request, reading, key)
        if not isinstance(kept, NotKept):
            return redirect(f"{app}:kept", kept.pk)
        target = kept.target
        name = request.POST.get("name", "")
        context = self._whole(request, reading, target, asker(request), name)
        context |= {"name_error": kept.why, "saved": False if target else None}
        context["path"] = target.get_absolute_url() if target else reverse(f"{app}:page")
        return render(request, f"{app}/page.html", context, status=kept.status)

    def _opening(self, owner: Owner) -> QueryDict:
        """The sample; for those who have a bag of their own, with what was last in hand."""
        query = QueryDict(mutable=True)
        query.update(
            {**self.gear, "units": owner.units}
            if owner.is_sample
            else hand.gear_of(owner, self.gear)
        )
        return query

    def _is_sample(self, request: HtmxHttpRequest, kept: Thing | None) -> bool:
        return kept is None and not self.is_said(request.GET)

    def _context(
        self,
        request: HtmxHttpRequest,
        reading: Said,
        kept: Thing | None,
        who: Asker,
        held: float | None = None,
        axis: Axis | None = None,
    ) -> dict[str, Any]:
        on_page = shown(request, (fold.id for fold in self.folds))
        saved = None
        if kept is not None:
            same_hand = Asker(in_use=lambda texts: reading.in_use)
            as_kept = self.read(self.keeper.query_of(kept), lambda: None, same_hand)
            saved = as_kept.query() == reading.query()
        return {
            "reading": reading,
            "errors": reading.errors,
            "texts": reading.texts,
            "messages": reading.messages,
            "plan": kept,
            "saved": saved,
            "sample": self._is_sample(request, kept),
            "path": request.path,
            "unfolded": on_page.unfolded,
            "opened": on_page.opened,
            "folds": self.folds,
            **self.beside(kept),
            **self.answered(Asked(reading, who, request.owner, on_page, held, axis)),
        }

    def _whole(
        self, request: HtmxHttpRequest, reading: Said, kept: Thing | None, who: Asker, name: str
    ) -> dict[str, Any]:
        app = self.keeper.app
        return self._context(request, reading, kept, who) | {
            "hand": hand.hand(request.owner, reading.texts),
            "name": name,
            "formats": formats_with(reading.frame),
            "notes": reading.notes,
            "screen": app,
            "list_path": reverse(f"{app}:all"),
            "new_path": f"{reverse(f'{app}:page')}?{reading.gear_query}",
            "save_path": self.keeper.save_path(kept),
            **self.around(reading),
        }
