"""Standards and formats beside each other, for one well-known case."""

from __future__ import annotations

import math
from typing import Any

from django import forms
from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from optics.base import units
from web.bag import compare, usecases
from web.bag.models import Body, Lens, Standard
from web.bag.soundness import sound
from web.bag.views import pick
from web.people.owners import OwnedRequest
from web.ui.fields import LengthField, NumberField


class CaseForm(forms.Form):
    """The well-known case that standards and formats are compared in."""

    focal_length_mm = NumberField(
        low=1, high=3000, sentence="Give a focal length from 1 to 3000 mm, such as 24."
    )
    f_number = NumberField(low=0.5, high=128, sentence="Give an aperture from 0.5 to 128.")
    focus = LengthField(
        low=10, high=math.inf, sentence="Give the distance the ring is at, such as 3 m, or inf."
    )


def _case(request: OwnedRequest, focal_length: float) -> tuple[compare.Case, dict[str, Any]]:
    """The case of a link; what cannot be used has a message, and the usual stands in for it."""
    system = request.owner.units
    usual = {
        "focal_length_mm": f"{focal_length:g}",
        "f_number": f"{usecases.KNOWN_F_NUMBER:g}",
        "focus": units.write(usecases.KNOWN_FOCUS_MM, system, 2),
    }
    texts = {name: request.GET.get(name, text) for name, text in usual.items()}
    form = CaseForm(texts)
    form.fields["focus"].system = system  # type: ignore[attr-defined]
    errors = {name: " ".join(map(str, said)) for name, said in form.errors.items()}
    values = {
        "focal_length_mm": focal_length,
        "f_number": usecases.KNOWN_F_NUMBER,
        "focus": usecases.KNOWN_FOCUS_MM,
        **form.cleaned_data,
    }
    case = compare.Case(values["focal_length_mm"], values["f_number"], values["focus"])
    return case, {"texts": texts, "errors": errors, "system": system, "screen": "compare"}


@require_safe
def standards(request: OwnedRequest) -> HttpResponse:
    """All standards on one axis, for one case."""
    owner = request.owner
    bodies = sound(Body.objects.filter(owner=owner))
    lens = next(iter(sound(Lens.objects.filter(owner=owner))), None)
    case, context = _case(request, lens.shortest_mm if lens else 24.0)
    body = pick(bodies, request.GET.get("body"))
    found = sound(Standard.objects.filter(owner=owner).select_related("than"))
    context["comparison"] = compare.standards(found, body, case, owner.units) if body else None
    context |= {"bodies": bodies, "body": body, "case": case}
    return render(request, "bag/standards.html", context)


@require_safe
def formats(request: OwnedRequest) -> HttpResponse:
    """Two bodies: the same lens, the same view, the equivalent aperture."""
    owner = request.owner
    bodies = sound(Body.objects.filter(owner=owner))
    ideas = sound(Standard.objects.filter(owner=owner).select_related("than"))
    case, context = _case(request, 24.0)
    one, other = pick(bodies, request.GET.get("one")), pick(bodies, request.GET.get("other"), 1)
    standard = pick(ideas, request.GET.get("standard"))
    comparison = None
    if one and other and standard:
        comparison = compare.formats(one, other, standard, case, owner.units)
    context |= {
        "comparison": comparison, "bodies": bodies, "ideas": ideas, "one": one, "other": other,
        "standard": standard, "case": case,
    }  # fmt: skip
    if one and other:
        context["ratio"] = other.frame.diagonal / one.frame.diagonal
    return render(request, "bag/formats.html", context)
