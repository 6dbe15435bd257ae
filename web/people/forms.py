"""Names, passwords, preferences and measures as text, checked."""

from __future__ import annotations

from functools import partial
from typing import Any, cast

from django import forms
from django.contrib.auth.forms import AuthenticationForm, PasswordResetForm, UserCreationForm
from django.core.exceptions import ValidationError

from optics.base import units
from web.people import mailing
from web.people.models import LONGEST_LAG, USUAL_LAG, Owner, Person
from web.ui.choices import CHOOSE_UNITS, unit_systems
from web.ui.fields import LengthField, NumberField


class SignInForm(AuthenticationForm):
    """Name and password. Says nothing about which of the two was wrong."""

    error_messages = {
        "invalid_login": "That name and password do not go together.",
        "inactive": "That name and password do not go together.",
    }

    def clean_username(self) -> str:
        """The name as it was chosen: capitals do not matter."""
        name = str(self.cleaned_data["username"])
        known = Person.objects.filter(username__iexact=name).values_list("username", flat=True)
        return known.first() or name


class JoinForm(UserCreationForm):  # type: ignore[type-arg]
    """A new account: a name, a password twice, and a mail address if one likes."""

    email = forms.EmailField(
        required=False,
        max_length=254,
        error_messages={"invalid": "That is not a mail address. It may also be left empty."},
    )

    class Meta:
        model = Person
        fields = ["username", "email"]
        error_messages = {
            "username": {
                "unique": "That name is taken. Choose another.",
                "required": "Choose a name to sign in with.",
                "max_length": "Keep the name to 150 letters.",
            }
        }

    def clean_username(self) -> str:
        name = self.cleaned_data["username"]
        if not any(c.isalnum() for c in name):
            raise ValidationError("A name has a letter or a digit in it.", code="no_name")
        if Person.objects.filter(username__iexact=name).exists():
            raise ValidationError("That name is taken. Choose another.", code="unique")
        return str(name)


def _checked(person: Any, password: str) -> str:
    if not person.check_password(password):
        raise ValidationError("That is not your password.", code="wrong")
    return password


class MailForm(forms.Form):
    """Another mail address, or none, and the password."""

    email = forms.EmailField(
        required=False,
        max_length=254,
        error_messages={"invalid": "That is not a mail address. It may also be left empty."},
    )
    password = forms.CharField(error_messages={"required": "Give your password too."})

    def __init__(self, *args: Any, person: Any, **kwargs: Any) -> None:
        self.person = person
        super().__init__(*args, **kwargs)

    def clean_password(self) -> str:
        return _checked(self.person, self.cleaned_data["password"])


class DeleteForm(forms.Form):
    """To delete everything: the password of an account, and a word."""

    password = forms.CharField(error_messages={"required": "Give your password too."})
    word = forms.CharField(error_messages={"required": "Type delete, if you mean it."})

    def __init__(self, *args: Any, person: Any, **kwargs: Any) -> None:
        self.person = person
        super().__init__(*args, **kwargs)
        if not person.is_authenticated:
            del self.fields["password"]

    def clean_password(self) -> str:
        return _checked(self.person, self.cleaned_data["password"])

    def clean_word(self) -> str:
        word = str(self.cleaned_data["word"])
        if word.strip().lower() != "delete":
            raise ValidationError("Type delete, if you mean it.")
        return word


class ResetForm(PasswordResetForm):
    """Where to send a link to; sent beside the answer."""

    def send_mail(self, *args: Any, **kwargs: Any) -> None:
        mailing.sent(partial(super().send_mail, *args, **kwargs))


class PreferencesForm(forms.ModelForm):  # type: ignore[type-arg]
    """Units, and the measures of one's own body."""

    units = forms.ChoiceField(choices=unit_systems, error_messages={"invalid_choice": CHOOSE_UNITS})
    pace_mm = LengthField(low=300, high=1500, sentence="A pace is 30 cm to 1.5 m, such as 75 cm.")
    arm_mm = LengthField(low=300, high=1200, sentence="An arm is 30 cm to 1.2 m, such as 65 cm.")
    eye_height_mm = LengthField(
        low=300, high=2500, sentence="Eyes are 30 cm to 2.5 m above the ground, such as 1.6 m."
    )
    judgement_error = NumberField(
        low=0,
        high=100,
        unit="%",
        sentence="Give how far off you usually are, from 0 to 100 %, such as 15.",
    )

    lag_s = NumberField(
        low=0,
        high=LONGEST_LAG,
        unit="s",
        required=False,
        sentence="A finger is late by 0 to 5 s, such as 0.2.",
    )

    class Meta:
        model = Owner
        fields = ["units", "pace_mm", "arm_mm", "eye_height_mm", "judgement_error", "lag_s"]

    def keep(self, owner: Owner) -> None:
        """Keep what is valid here for an owner."""
        for name in self._meta.fields or ():
            setattr(owner, name, self.cleaned_data[name])
        owner.save(update_fields=self._meta.fields)

    def clean_lag_s(self) -> float:
        lag = self.cleaned_data["lag_s"]
        return USUAL_LAG if lag is None else float(lag)

    def clean_judgement_error(self) -> float:
        return float(self.cleaned_data["judgement_error"]) / 100.0


def measure_limits() -> dict[str, tuple[float, float]]:
    """From where to where each measure goes, as it is kept: mm, and a share."""
    fields = {name: cast("LengthField", PreferencesForm.base_fields[name]) for name in _LENGTHS}
    lengths = {name: (field.low, field.high) for name, field in fields.items()}
    return lengths | {"judgement_error": (0.0, 1.0), "lag_s": (0.0, LONGEST_LAG)}


_LENGTHS = ("pace_mm", "arm_mm", "eye_height_mm")


def texts_of(owner: Owner) -> dict[str, str]:
    """What the form of preferences opens with, by field name."""
    lengths = {
        name: units.write(getattr(owner, name), owner.units)
        for name in ("pace_mm", "arm_mm", "eye_height_mm")
    }
    judged = f"{100 * owner.judgement_error:.3g}"
    lag = f"{owner.lag_s:.2g}"
    return {"units": owner.units, **lengths, "judgement_error": judged, "lag_s": lag}
