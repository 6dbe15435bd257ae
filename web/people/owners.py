"""Who asks, whose things they see, and whose they may change.

A guest reads the sample's things. The first time they change or keep something they become an
owner, known by their browser, with a copy of all the sample has; making an account later gives
that owner a name. So every read is of one owner's things, and every write goes to one's own.
"""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from functools import lru_cache
from typing import Any, TypeVar, cast

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.db import DatabaseError, IntegrityError, transaction
from django.http import Http404, HttpRequest
from django.utils import timezone
from django.utils.functional import SimpleLazyObject
from django.utils.module_loading import import_string

from web.people import guests
from web.people.models import Owned, Owner, Person
from web.ui import throttle

SESSION_KEY = "owner"

Thing = TypeVar("Thing", bound=Owned)
Copier = Callable[[Owner, Owner], None]
"""Copies what one screen keeps from an owner to another."""

_COPIERS: list[Copier] = []
_MOVERS: list[Copier] = []
_TELLERS: list[Callable[[Owner], dict[str, Any]]] = []


def copies(copier: Copier) -> Copier:
    """Register how a screen's things are copied to a new owner."""
    _COPIERS.append(copier)
    return copier


def moves(mover: Copier) -> Copier:
    """Register how what a guest made moves to the owner they turn out to be."""
    _MOVERS.append(mover)
    return mover


def tells(
    teller: Callable[[Owner], dict[str, Any]],
) -> Callable[[Owner], dict[str, Any]]:
    """Register what a screen keeps of an owner, as plain data to take along."""
    _TELLERS.append(teller)
    return teller


def taken_along(owner: Owner) -> dict[str, Any]:
    """All that is kept of an owner, as plain data."""
    return {name: said for tell in _TELLERS for name, said in tell(owner).items()}


class OwnedRequest(HttpRequest):
    """A request with whose things it sees: what ``middleware`` puts on it."""

    owner: Owner
    user: Person | AnonymousUser


def middleware(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Puts ``request.owner`` on every request, found only if asked for; and lets a browser, or a
    session, that comes back each day last."""

    def handle(request: HttpRequest) -> Any:
        request.owner = SimpleLazyObject(lambda: reader(request))  # type: ignore[attr-defined]
        response = get_response(request)
        if settings.SESSION_COOKIE_NAME in request.COOKIES and request.user.is_authenticated:
            if request.session.get(_DAY) != guests.today():
                request.session[_DAY] = guests.today()
        else:
            guests.tell(request, response)
        return response

    return handle


_DAY = "day"


def reader(request: HttpRequest) -> Owner:
    """Whose things a request sees: the person's, the guest's, or the sample's."""
    own = _own(request)
    return own if own is not None else sample()


def _own(request: HttpRequest) -> Owner | None:
    user = cast("AbstractBaseUser | AnonymousUser", request.user)
    if user.is_authenticated:
        return Owner.objects.filter(person_id=user.pk).first()
    if (known := guests.known(request)) is not None and known.owns:
        own = Owner.objects.filter(guest=known.hash).first()
        if own is not None and known.day != guests.today():
            _used(own)
        return own
    return _of_session(request)


def _of_session(request: HttpRequest) -> Owner | None:
    """A guest known by their session, as all were once: by their browser from now on."""
    key = request.session.get(SESSION_KEY)
    if not key:
        return None
    own = Owner.objects.filter(pk=key, person=None, is_sample=False).first()
    if own is not None and own.guest is None:
        own.guest = guests.made_known(request, owns=True).hash
        own.save(update_fields=["guest"])
    return own


def _used(own: Owner) -> None:
    """They were here today."""
    today = timezone.localdate()
    if own.used_on != today:
        own.used_on = today
        with suppress(DatabaseError):  # a database that takes nothing now can still be read
            own.save(update_fields=["used_on"])


def whose(request: OwnedRequest) -> dict[str, Any]:
    """How to filter things for those that a request sees, without looking for their owner first."""
    if request.user.is_authenticated:
        return {"owner__person": request.user.pk}
    known = guests.known(request)
    if (known is not None and known.owns) or request.session.get(SESSION_KEY):
        return {"owner": request.owner}  # who may have been forgotten meanwhile
    return {"owner__is_sample": True}


def writer(request: HttpRequest) -> Owner:
    """Whose things a request may change: a guest becomes an owner here."""
    own = _own(request)
    if own is None:
        user = cast("AbstractBaseUser | AnonymousUser", request.user)
        if user.is_authenticated:
            own = _the_owner(person=cast(Person, user))
        else:
            throttle.count(request, "first things")
            own = _the_owner(guest=guests.made_known(request, owns=True).hash)
    _used(own)
    request.owner = own  # type: ignore[attr-defined]
    return own


def _the_owner(**known_by: Any) -> Owner:
    """The owner that a person or a guest is, made if there is none: once, whoever asks at once."""
    try:
        with transaction.atomic():
            return Owner.objects.filter(**known_by).first() or new_owner(**known_by)
    except IntegrityError:  # the same one was made at the same moment
        return Owner.objects.get(**known_by)


@transaction.atomic
def new_owner(**known_by: Any) -> Owner:
    """An owner with a copy of all that the sample has."""
    source = sample()
    owner = Owner.objects.create(units=source.units, **known_by)
    for copy in _COPIERS:
        copy(source, owner)
    return owner


def sample() -> Owner:
    """The owner of the sample world, made on first need."""
    found = next(iter(Owner.objects.raw(*_the_sample())), None)
    if found is not None:
        return found
    try:
        with transaction.atomic():
            owner = Owner.objects.create(is_sample=True)
            import_string(settings.SAMPLE_WORLD)(owner)
            return owner
    except IntegrityError:  # somebody else was first
        return Owner.objects.get(is_sample=True)


@lru_cache(maxsize=1)
def _the_sample() -> tuple[str, tuple[Any, ...]]:
    """The query for it, written once: it is asked at most answers, and writing costs more."""
    return Owner.objects.filter(is_sample=True).query.sql_with_params()


def find(
    model: type[Thing], owner: Owner, key: int, sentence: str, manager: str = "objects"
) -> Thing:
    """One of an owner's things, or their copy of the sample's with that key; else a plain 404."""
    if 0 < key < 2**63:
        things = getattr(model, manager).filter(owner=owner)
        found = things.filter(pk=key).first() or things.filter(copied_from=key).first()
        if found is not None:
            return cast(Thing, found)
    raise Http404(sentence)


def named(request: HttpRequest, person: Person) -> None:
    """Give what a guest made to the account they have just made or signed in to."""
    guest = _guest(request)
    request.session.pop(SESSION_KEY, None)
    guests.forget(request)
    with transaction.atomic():
        owner = Owner.objects.filter(person=person).first()
        if owner is None and guest is not None:
            guest.person, guest.guest = person, None
            guest.save(update_fields=["person", "guest"])
        elif owner is None:
            new_owner(person=person)
        elif guest is not None:
            for move in _MOVERS:
                move(guest, owner)
            guest.delete()


def _guest(request: HttpRequest) -> Owner | None:
    """The guest that this browser is, whoever signs in."""
    known = guests.known(request)
    found = Owner.objects.filter(guest=known.hash).first() if known is not None else None
    key = request.session.get(SESSION_KEY)
    if found is None and key:
        found = Owner.objects.filter(pk=key, person=None, is_sample=False).first()
    return found
