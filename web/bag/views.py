"""Form → use case → template, for every kind of thing in the bag alike."""

from __future__ import annotations

import copy
import uuid
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from optics.base.errors import OpticsError
from web.bag import usecases
from web.bag.body_form import BodyForm
from web.bag.focus_sheet import sheet
from web.bag.forms import AttachmentForm, StandardForm
from web.bag.layout import ThingForm
from web.bag.lens_form import LensForm
from web.bag.models import Attachment, Body, InHand, Lens, Standard, Thing
from web.bag.soundness import as_kept, drawn_ring, faults, sound, straight_down
from web.people.models import Owner
from web.people.owners import OwnedRequest, find, writer
from web.people.quota import Full
from web.ui.storing import NotStored, storing

GONE = "There is no such thing in this bag. It may have been taken out."


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of thing: its address, its model and its form."""

    slug: str
    model: type[Thing]
    form: type[ThingForm]
    noun: str
    article: str


KINDS = {
    kind.slug: kind
    for kind in (
        Kind("body", Body, BodyForm, "body", "a"),
        Kind("lens", Lens, LensForm, "lens", "a"),
        Kind("standard", Standard, StandardForm, "standard", "a"),
        Kind("adapter", Attachment, AttachmentForm, "adapter or converter", "an"),
    )
}


def _kind(slug: str) -> Kind:
    if slug not in KINDS:
        raise Http404("There is no such kind of thing in a bag.")
    return KINDS[slug]


@require_safe
def overview(request: OwnedRequest) -> HttpResponse:
    """Everything in the bag."""
    owner = request.owner
    bag = usecases.bag(owner)
    of_model = {kind.model: kind for kind in KINDS.values()}
    context = {
        "bag": bag, "system": owner.units, "screen": "bag",
        "broken": [(of_model[type(thing)], thing) for thing in bag.broken],
        "gone": _gone(request), "gone_sample": request.GET.get("gone") == "sample",
        "samples_gear": usecases.samples_gear(owner), "known_f_number": usecases.KNOWN_F_NUMBER,
        "known_focus": usecases.KNOWN_FOCUS_MM,
    }  # fmt: skip
    return render(request, "bag/page.html", context)


def _gone(request: OwnedRequest) -> dict[str, Any] | None:
    slug, _, key = request.GET.get("gone", "").partition("-")
    if slug not in KINDS or not key.isdecimal() or len(key) > 18:
        return None
    things = KINDS[slug].model.with_deleted.filter(owner=request.owner)
    thing = things.filter(pk=int(key)).exclude(deleted_at=None).first()
    return {"thing": thing, "slug": slug} if thing else None


@require_http_methods(["GET", "HEAD", "POST"])
def edit(request: OwnedRequest, slug: str, key: int | None = None) -> HttpResponse:
    """One thing: to look at, to change, or to put in."""
    kind = _kind(slug)
    thing = None if key is None else find(kind.model, request.owner, key, GONE)
    once = request.POST.get("once", "")
    if request.method == "POST":
        if thing is None and (made := _made_already(kind, request.owner, once)):
            return redirect(f"{reverse('bag:edit', args=(slug, made.pk))}?kept=1")
        # Of a copy: what is typed wrong must not reach what is drawn of the thing as it is kept.
        form = kind.form(request.POST, instance=copy.copy(thing), owner=request.owner)
        if form.is_valid():
            try:
                with storing():
                    form, kept = _kept(request, kind, key, once)
            except (NotStored, Full) as error:
                form.add_error(None, error.sentence)
            else:
                if kept is not None:
                    return redirect(f"{reverse('bag:edit', args=(slug, kept.pk))}?kept=1")
    else:
        form = _opened(kind, thing, request.owner)
    context = {
        "kind": kind, "thing": thing, "form": form, "sections": form.shown(), "screen": "thing",
        "once": once or str(uuid.uuid4()), "unusual_pitch": getattr(form, "unusual_pitch", None),
        "system": request.owner.units,
        "used_in": usecases.kept_with(thing) if isinstance(thing, Lens) else (),
        "broken": thing is not None and bool(faults(thing)),
        "kept": thing is not None and "kept" in request.GET and request.method != "POST",
    }  # fmt: skip
    if not context["broken"]:
        context |= _facts(request, thing)
        context["sheet"] = sheet(thing) if isinstance(thing, Body) else None
    wrong = request.method == "POST" and form.errors
    return render(request, "bag/edit.html", context, status=422 if wrong else 200)


def _kept(
    request: OwnedRequest, kind: Kind, key: int | None, once: str
) -> tuple[ThingForm, Thing | None]:
    """What was typed, kept in their own bag; the form of it says what is wrong there, if so."""
    owner = writer(request)
    own = None if key is None else find(kind.model, owner, key, GONE)
    form = kind.form(request.POST, instance=copy.copy(own), owner=owner)
    return form, usecases.keep(form, once) if form.is_valid() else None


def _opened(kind: Kind, thing: Thing | None, owner: Owner) -> ThingForm:
    """The form of a thing as it is kept; of a broken one with what is wrong in its place."""
    if thing is None or not faults(thing):
        return kind.form(instance=thing, owner=owner)
    return kind.form(as_kept(thing), instance=copy.copy(thing), owner=owner)


def _facts(request: OwnedRequest, thing: Thing | None) -> dict[str, Any]:
    """What follows from what is kept of a thing."""
    if isinstance(thing, Body):
        return {"circles": usecases.circles_on(thing), "circles_of": "On this body"}
    if isinstance(thing, Standard):
        return {"circles": usecases.circles_of(thing), "circles_of": "Its circle"}
    if not isinstance(thing, Lens):
        return {}
    return {**_ring(thing, request.owner.units), **_marks(request, thing)}


def _ring(lens: Lens, system: str) -> dict[str, Any]:
    """A lens's ring with its tab, as it is kept or typed. Raises OpticsError: half a lens."""
    down = straight_down(lens)
    return {
        "picture": drawn_ring(lens, system, down), "tab_places": usecases.tab_places(lens, system),
        "straight_down": down, "takes_tab": not lens.ring_is_assumed, "lens": lens,
    }  # fmt: skip


def _marks(request: OwnedRequest, lens: Lens) -> dict[str, Any]:
    """Which engraved marks to trust for a standard on a body: those of the link, else in hand."""
    if not lens.depth_marks or not lens.depth_marks_circle_mm:
        return {}
    chosen = InHand.objects.filter(owner=request.owner).first()
    bodies = sound(Body.objects.filter(owner=request.owner))
    standards = sound(Standard.objects.filter(owner=request.owner).select_related("than"))
    keys = {"body": chosen and chosen.body_id, "standard": chosen and chosen.standard_id}
    body = pick(bodies, request.GET.get("body") or str(keys["body"]))
    standard = pick(standards, request.GET.get("standard") or str(keys["standard"]))
    circle = None if body is None or standard is None else standard.circle(body)
    if circle is None:
        return {}
    return {
        "marks_to_use": usecases.marks_to_use(lens, circle), "by_standard": standard,
        "for_body": body, "for_circle": circle, "bodies": bodies, "standards": standards,
    }  # fmt: skip


def _made_already(kind: Kind, owner: Any, once: str) -> Thing | None:
    try:
        token = uuid.UUID(once)
    except ValueError:
        return None
    found: Thing | None = kind.model.objects.filter(owner=owner, once=token).first()
    return found


@require_POST
def preview(request: OwnedRequest) -> HttpResponse:
    """The ring of a lens that is being typed, of what of it can be read; nothing is kept."""
    form = LensForm(request.POST, owner=request.owner, apart=True)
    form.is_valid()
    told = {field.name for field in Lens.told()}
    said = {n: value for n, value in form.cleaned_data.items() if n in told and value is not None}
    context: dict[str, Any] = {"system": request.owner.units}
    if "shortest_mm" in said:
        said.setdefault("longest_mm", said["shortest_mm"])
        lens = Lens(**{"widest": 2.8, **said})
        with suppress(OpticsError):  # half a lens, as it is while one types
            context |= _ring(lens, request.owner.units)
    return render(request, "bag/preview.html", context)


@require_POST
def start_empty(request: OwnedRequest) -> HttpResponse:
    """Begin with one's own: the sample's gear is taken out, with a way back."""
    usecases.start_empty(writer(request))
    return redirect(f"{reverse('bag:overview')}?gone=sample")


@require_POST
def fill_again(request: OwnedRequest) -> HttpResponse:
    """Put the sample's gear back."""
    usecases.fill_again(writer(request))
    return redirect("bag:overview")


@require_POST
def take_out(request: OwnedRequest, slug: str, key: int) -> HttpResponse:
    """Take a thing out of the bag, with a way back."""
    kind = _kind(slug)
    find(kind.model, request.owner, key, GONE)
    thing = find(kind.model, writer(request), key, GONE)
    usecases.take_out(thing)
    return redirect(f"{reverse('bag:overview')}?gone={slug}-{thing.pk}")


@require_POST
def put_back(request: OwnedRequest, slug: str, key: int) -> HttpResponse:
    """Put a thing back into the bag."""
    kind = _kind(slug)
    thing = find(kind.model, request.owner, key, GONE, "with_deleted")
    if request.owner.is_sample or usecases.put_back(thing):
        return redirect(f"{reverse('bag:overview')}#{slug}-{thing.pk}")
    context = {
        "title": "Not put back",
        "text": f"Another {kind.noun} is called {thing.name} now. Rename that one first.",
    }
    return render(request, "ui/error.html", context, status=409)


def pick(things: list[Any], key: str | None, at: int = 0) -> Any:
    """The thing of a link, or the one at a place if the link names none that is there."""
    chosen = next((thing for thing in things if str(thing.pk) == key), None)
    return chosen or (things[min(at, len(things) - 1)] if things else None)
