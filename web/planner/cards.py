"""A card for the pocket, of what a planner answers: a page to look at, and a PDF of two sides."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import URLPattern, path
from django.views.decorators.http import require_safe

from web.planner.escaped import worked_out
from web.planner.pages import Pages
from web.ui import printing
from web.ui.downloads import file_name
from web.ui.printing import Paper
from web.ui.throttle import throttled

SIDES = ("front", "back")


@dataclass(frozen=True, slots=True)
class Cards:
    """The card of one planner.

    ``noun``     what is on it, in a file's name; ``template``: its two sides, of which it shows
                 those that are keys of ``sides``; ``page``: the page around it,
                 and ``screen`` its key.
    ``context``  what the sides need, from a request and a kept thing's key: at least ``name``.
    ``around``   what more the page needs, from a request, that context and the address of the PDF:
                 at least ``papers``, each its value, its words and its address.
    """

    pages: Pages[Any]
    noun: str
    template: str
    page: str
    screen: str
    context: Callable[[Any, int | None], dict[str, Any]]
    around: Callable[[Any, int | None, dict[str, Any], str], dict[str, Any]]

    def addresses(self, one: str) -> list[URLPattern]:
        """Alone and with something kept, which an address calls ``one``."""
        shown, printed = self._shown(), self._printed()
        return [
            path("card/", shown, name="card"),
            path("card.pdf", printed, name="card_pdf"),
            path(f"{one}/<int:key>/card/", shown, name="kept_card"),
            path(f"{one}/<int:key>/card.pdf", printed, name="kept_card_pdf"),
        ]

    def _shown(self) -> Callable[..., Any]:
        @require_safe
        @worked_out
        def card(request: HttpRequest, key: int | None = None) -> HttpResponse:
            found = self.context(request, key)
            more = self.around(request, key, found, self.pages.address("card_pdf", key))
            sides = dict.fromkeys(SIDES, "")
            context = {
                **found,
                **more,
                "sides": sides,
                "card": self.template,
                "screen": self.screen,
            }
            return render(request, self.page, context)

        return card

    def _printed(self) -> Any:
        @require_safe
        @throttled("pdf")
        @worked_out
        def card(request: HttpRequest, key: int | None = None) -> HttpResponse:
            """``paper``: card, a4 or letter; on these, both sides beside each other."""
            wanted = request.GET.get("paper", "")
            paper = Paper(wanted) if wanted in set(Paper) else Paper.CARD
            context = self.context(request, key)
            context |= {"ours": printing.OURS, "printed": True, "card": self.template}

            def html_of(on: Paper, sides: dict[str, str]) -> str:
                return render_to_string(
                    "ui/card_print.html", {**context, "paper": on, "sides": sides}
                )

            def alone(side: str, density: str) -> str:
                return html_of(Paper.CARD, {side: density})

            def made() -> bytes:
                # Each side as large as it has room for; on a sheet, both beside each other.
                sides = {side: printing.density_for(partial(alone, side)) for side in SIDES}
                return printing.pdf(lambda _: html_of(paper, sides), len(sides))

            name = file_name(str(context["name"]), self.noun)
            return printing.answered(request, made, f"{name}, {paper}")

        return card


def papers(link: str) -> list[tuple[str, str, str]]:
    """Every paper, with the address of its PDF. ``link``: that, ready for one more field."""
    return [(paper.value, paper.words, link) for paper in Paper]
