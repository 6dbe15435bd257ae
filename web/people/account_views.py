"""What can be done with an account, or with what a guest has: take it along, change the mail
address, delete all of it."""

from __future__ import annotations

import json
from typing import Any, cast

from django.contrib.auth import logout
from django.contrib.auth.decorators import login_required
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_safe

from web.people import guests
from web.people.forms import DeleteForm, MailForm
from web.people.models import Person
from web.people.owners import OwnedRequest, taken_along
from web.ui.downloads import named
from web.ui.throttle import throttled


def _sent(request: OwnedRequest) -> Any:
    """What a form was sent with, even if with nothing; None for one that is only looked at."""
    return request.POST if request.method == "POST" else None


@require_safe
def export(request: OwnedRequest) -> HttpResponse:
    """All that somebody has here, as one file."""
    owner = request.owner
    data: dict[str, Any] = {
        "format": "aim-still-everything",
        "version": 1,
        "made": timezone.now().isoformat(timespec="seconds"),
        "units": owner.units,
    }
    if request.user.is_authenticated:
        data["account"] = {"name": request.user.get_username(), "mail": request.user.email}
    data |= taken_along(owner)
    text = json.dumps(data, indent=2, ensure_ascii=False) + "\n"
    response = HttpResponse(text, content_type="application/json")
    response["Content-Disposition"] = named("aim-still.json")
    return response


@login_required
@throttled("old password", "POST")
@require_http_methods(["GET", "HEAD", "POST"])
def mail(request: OwnedRequest) -> HttpResponse:
    """Change the mail address, or take it away."""
    form = MailForm(_sent(request), person=request.user)
    if request.method == "POST" and form.is_valid():
        person = cast(Person, request.user)
        person.email = form.cleaned_data["email"]
        person.save(update_fields=["email"])
        return redirect("people:mail_changed")
    mail_now = cast(Person, request.user).email
    context = {"form": form, "screen": "people", "mail": mail_now}
    return render(request, "people/mail.html", context, status=422 if form.errors else 200)


@throttled("old password", "POST")
@require_http_methods(["GET", "HEAD", "POST"])
def delete(request: OwnedRequest) -> HttpResponse:
    """Delete an account with everything that is its own; or all that a guest has."""
    form = DeleteForm(_sent(request), person=request.user)
    if request.method == "POST" and form.is_valid():
        person = request.user if request.user.is_authenticated else None
        with transaction.atomic():
            if not request.owner.is_sample:
                request.owner.delete()
            if person is not None:
                Person.objects.filter(pk=person.pk).delete()
        guests.forget(request)
        logout(request)
        return redirect("people:deleted")
    context = {"form": form, "screen": "people"}
    return render(request, "people/delete.html", context, status=422 if form.errors else 200)
