"""The list of plans, and what can be done to one of them there."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from optics.scene.answer import answer
from web.bag.kept import deleted_of
from web.people.owners import OwnedRequest, find, writer
from web.view import plans as plan_store
from web.view.forms import read_scene
from web.view.models import Plan
from web.view.views import NO_SUCH_PLAN, plan_of


@require_GET
def plans(request: OwnedRequest) -> HttpResponse:
    """The list of plans, the last changed first."""
    deleted = deleted_of(Plan, request.owner, request.GET.get("deleted", ""))
    kept = list(Plan.objects.filter(owner=request.owner).prefetch_related("marks"))
    context = {"plans": [_listed(plan) for plan in kept], "deleted": deleted, "screen": "plans"}
    return render(request, "view/plans.html", context)


@require_POST
def delete(request: OwnedRequest, plan_id: int) -> HttpResponse:
    """Take a plan off the list, with a way back."""
    plan_of(request.owner, plan_id)
    plan = plan_of(writer(request), plan_id)
    assert plan is not None
    plan.take_off()
    return redirect(f"{reverse('view:plans')}?deleted={plan.pk}")


@require_POST
def duplicate(request: OwnedRequest, plan_id: int) -> HttpResponse:
    """Make another plan like it, and open that."""
    plan_of(request.owner, plan_id)
    plan = plan_of(writer(request), plan_id)
    assert plan is not None
    return redirect("view:plan", plan_store.duplicate(plan).pk)


@require_POST
def restore(request: OwnedRequest, plan_id: int) -> HttpResponse:
    """Put a deleted plan back."""
    plan = find(Plan, request.owner, plan_id, NO_SUCH_PLAN, "with_deleted")
    if not request.owner.is_sample:
        plan.put_back()
    return redirect("view:plans")


def _listed(plan: Plan) -> dict[str, Any]:
    reading = read_scene(plan_store.query_of(plan))
    return {"plan": plan, "answer": answer(reading.scene), "system": reading.scene.system}
