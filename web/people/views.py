"""Accounts and preferences. Signing in and resetting are Django's own views with our pages."""

from __future__ import annotations

from typing import Any, cast

from axes.utils import reset
from django.conf import settings
from django.contrib.auth import login
from django.contrib.auth import views as auth
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse, reverse_lazy
from django.utils.decorators import method_decorator
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_http_methods
from django.views.generic import TemplateView

from optics.base import units
from web.people.forms import JoinForm, PreferencesForm, ResetForm, SignInForm, texts_of
from web.people.management.commands.forget_guests import USUAL_DAYS
from web.people.models import Owner, Person
from web.people.owners import SESSION_KEY, OwnedRequest, named, writer
from web.ui.back import path_in
from web.ui.preferences import keep_light
from web.ui.storing import NotStored, storing
from web.ui.throttle import throttled

_BACKEND = "django.contrib.auth.backends.ModelBackend"


def _next(request: HttpRequest) -> str:
    there = request.POST.get("next") or request.GET.get("next")
    return path_in(request, there, reverse("kept:page"))


@method_decorator(throttled("sign in", "POST"), name="dispatch")
class SignIn(auth.LoginView):
    """Sign in; what was made as a guest comes along."""

    form_class = SignInForm
    template_name = "people/sign_in.html"
    redirect_authenticated_user = True
    extra_context = {"screen": "people"}

    def form_valid(self, form: Any) -> HttpResponse:
        kept = {k: v for k, v in self.request.session.items() if k == SESSION_KEY}
        response = super().form_valid(form)
        self.request.session.update(kept)
        named(self.request, cast(Person, form.get_user()))
        return response

    def get_default_redirect_url(self) -> str:
        return _next(self.request)


@sensitive_post_parameters()
@throttled("join", "POST")
@require_http_methods(["GET", "HEAD", "POST"])
def join(request: OwnedRequest) -> HttpResponse:
    """Make an account; what was made as a guest becomes its own."""
    if request.user.is_authenticated:
        return redirect("people:preferences")
    form = JoinForm(request.POST if request.method == "POST" else None)
    if request.method == "POST" and form.is_valid():
        try:
            with storing(), transaction.atomic():
                person = form.save()
                named(request, person)
        except NotStored as error:
            form.add_error(None, error.sentence)
            return _joining(request, form, 503)
        login(request, person, backend=_BACKEND)
        return redirect(_next(request))
    return _joining(request, form, 422 if form.is_bound else 200)


def _joining(request: OwnedRequest, form: JoinForm, status: int) -> HttpResponse:
    context = {"form": form, "next": _next(request), "screen": "people"}
    return render(request, "people/join.html", context, status=status)


@require_http_methods(["GET", "HEAD", "POST"])
def preferences(request: OwnedRequest) -> HttpResponse:
    """Units, one's own measures, and the account."""
    owner = request.owner
    if request.method == "POST":
        # Of nobody yet: what is typed wrong makes nobody an owner.
        form = PreferencesForm(request.POST, instance=Owner(units=owner.units))
        chosen = request.POST.get("units", "")
        for name in ("pace_mm", "arm_mm", "eye_height_mm"):
            system = chosen if chosen in units.SYSTEMS else owner.units
            form.fields[name].system = system  # type: ignore[attr-defined]
        if form.is_valid():
            try:
                with storing():
                    form.keep(writer(request))
            except NotStored as error:
                form.add_error(None, error.sentence)
            else:
                response = redirect(f"{reverse('people:preferences')}?kept=1")
                keep_light(response, request.POST.get("light"))
                return response
        texts = {name: request.POST.get(name, "") for name in form.fields}
    else:
        form = PreferencesForm(instance=owner)
        texts = texts_of(owner)
    errors = {name: " ".join(map(str, messages)) for name, messages in form.errors.items()}
    context = {
        "refused": errors.get("__all__", ""),
        "texts": texts, "errors": errors, "kept": "kept" in request.GET and not form.is_bound,
        "screen": "people",
    }  # fmt: skip
    return render(request, "people/preferences.html", context, status=422 if errors else 200)


@method_decorator(throttled("old password", "POST"), name="dispatch")
class ChangePassword(auth.PasswordChangeView):
    """A new password for the old one."""

    template_name = "people/password.html"
    success_url = reverse_lazy("people:password_changed")
    extra_context = {"screen": "people", "title": "Change the password", "deed": "Change it"}


@method_decorator(throttled("reset", "POST"), name="dispatch")
class ResetPassword(auth.PasswordResetView):
    """Ask for a link to set a new password; where no mail can be sent, be told so."""

    form_class = ResetForm
    template_name = "people/reset.html"
    email_template_name = "people/reset_mail.txt"
    subject_template_name = "people/reset_subject.txt"
    success_url = reverse_lazy("people:reset_sent")

    def get_context_data(self, **kwargs: Any) -> dict[str, Any]:
        context: dict[str, Any] = super().get_context_data(**kwargs)
        return {**context, "screen": "people", "mail_is_set_up": settings.MAIL_IS_SET_UP}


class SetPassword(auth.PasswordResetConfirmView):
    """Set a new password by the link in the mail; a lock from wrong ones ends."""

    template_name = "people/password.html"
    success_url = reverse_lazy("people:password_changed")
    extra_context = {"screen": "people", "title": "A new password", "deed": "Set it"}

    def form_valid(self, form: Any) -> HttpResponse:
        response = super().form_valid(form)
        if self.user is not None:
            reset(username=self.user.get_username())
        return response


class Said(TemplateView):
    """A page that only says something. ``heading`` and ``text`` are given in the urls."""

    template_name = "people/said.html"
    heading = ""
    text = ""

    def get_context_data(self, **kwargs: Any) -> dict[str, Any]:
        return {**super().get_context_data(**kwargs), "heading": self.heading, "text": self.text,
                "screen": "people"}  # fmt: skip


class Privacy(TemplateView):
    """What is kept of whom, where, and for how long."""

    template_name = "people/privacy.html"
    extra_context = {"screen": "people", "guest_days": USUAL_DAYS}


def locked(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
    """429: too many wrong passwords for this name from this address."""
    context = {
        "title": "Too many tries",
        "text": "Wait a quarter of an hour, then try again. A forgotten password can be reset.",
    }
    return render(request, "ui/error.html", context, status=429)
