"""The list of sets, and what can be done to one of them there."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from web.bag.kept import deleted_of
from web.people.owners import OwnedRequest, find, writer
from web.street import sets as set_store
from web.street import usecases
from web.street.forms import read_street
from web.street.models import PositionSet
from web.street.views import NO_SUCH_SET, set_of


@require_GET
def sets(request: OwnedRequest) -> HttpResponse:
    """The list of sets, the last changed first."""
    deleted = deleted_of(PositionSet, request.owner, request.GET.get("deleted", ""))
    kept = [_listed(one) for one in PositionSet.objects.filter(owner=request.owner)]
    context = {"sets": kept, "deleted": deleted, "screen": "street"}
    return render(request, "street/sets.html", context)


@require_POST
def delete(request: OwnedRequest, set_id: int) -> HttpResponse:
    """Take a set off the list, with a way back."""
    set_of(request.owner, set_id)
    kept = find(PositionSet, writer(request), set_id, NO_SUCH_SET)
    kept.take_off()
    return redirect(f"{reverse('street:sets')}?deleted={kept.pk}")


@require_POST
def duplicate(request: OwnedRequest, set_id: int) -> HttpResponse:
    """Make another set like it, and open that."""
    set_of(request.owner, set_id)
    kept = find(PositionSet, writer(request), set_id, NO_SUCH_SET)
    kept.made_another()
    kept.save()
    return redirect("street:set", kept.pk)


@require_POST
def restore(request: OwnedRequest, set_id: int) -> HttpResponse:
    """Put a deleted set back."""
    kept = find(PositionSet, request.owner, set_id, NO_SUCH_SET, "with_deleted")
    if not request.owner.is_sample:
        kept.put_back()
    return redirect("street:sets")


def _listed(kept: PositionSet) -> dict[str, Any]:
    reading = read_street(set_store.query_of(kept))
    answer = usecases.answer(reading.street)
    return {"set": kept, "answer": answer, "system": reading.street.system}
