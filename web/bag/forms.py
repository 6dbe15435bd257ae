"""What is typed about bodies, adapters and standards, checked; lenses are in ``lens_form``."""

from __future__ import annotations

from typing import Any

from django import forms

from web.bag.layout import CHOICE, TICK, Row, Section, ThingForm, choice
from web.bag.models import Attachment, Standard, Way
from web.ui.fields import LengthField, NumberField, WholeNumberField


class AttachmentForm(ThingForm):
    """An adapter, converter or focal reducer."""

    noun = "adapter"
    factor = NumberField(
        low=0.3, high=4, sentence="Give a factor from 0.3 to 4: 1.4, 0.71, or 1 for none."
    )
    keeps_infinity = forms.BooleanField(required=False, initial=True)

    class Meta:
        model = Attachment
        fields = ["name", "factor", "keeps_infinity"]

    sections = (
        Section(
            "",
            (
                Row("name", "Name", placeholder="1.4× converter"),
                Row("factor", "Focal length ×", placeholder="1.4",
                    help="A converter is over 1, a focal reducer under 1, a plain adapter 1."),
                Row("keeps_infinity", "Infinity can still be reached", kind=TICK),
            ),
        ),
    )  # fmt: skip


class StandardForm(ThingForm):
    """A named idea of sharp, by its use."""

    noun = "standard"
    way = choice(Standard, "way")
    print_width_mm = LengthField(
        low=10, high=50_000, required=False, sentence="A print is 1 cm to 50 m wide."
    )
    print_height_mm = LengthField(
        low=10, high=50_000, required=False, sentence="A print is 1 cm to 50 m high."
    )
    fills = forms.BooleanField(required=False)
    viewing_mm = LengthField(
        low=50, high=500_000, required=False, sentence="Looked at from 5 cm to 500 m."
    )
    keen = forms.BooleanField(required=False)
    screen_pixels = WholeNumberField(
        low=100,
        high=100_000,
        required=False,
        sentence="Pixels: a whole number from 100 to 100 000.",
    )
    pixels = NumberField(low=0.1, high=100, required=False, sentence="Pixels: from 0.1 to 100.")
    parts = NumberField(low=100, high=20_000, required=False, sentence="Parts: from 100 to 20 000.")
    circle_mm = NumberField(
        low=0.0005, high=1, required=False, sentence="Give a circle from 0.0005 to 1 mm."
    )
    than = forms.ModelChoiceField(queryset=Standard.objects.none(), required=False)
    stops = NumberField(low=-10, high=10, required=False, sentence="Stops: from −10 to 10.")
    counts_diffraction = forms.BooleanField(required=False)

    class Meta:
        model = Standard
        fields = [
            "name", "way", "print_width_mm", "print_height_mm", "fills", "viewing_mm", "keen",
            "screen_pixels", "pixels", "parts", "circle_mm", "than", "stops", "counts_diffraction",
        ]  # fmt: skip

    sections = (
        Section(
            "",
            (
                Row("name", "Name", placeholder="wall print at arm’s length"),
                Row("way", "Sharp enough for", kind=CHOICE),
            ),
        ),
        Section(
            "A print",
            (
                Row("print_width_mm", "Width", placeholder="60 cm"),
                Row("print_height_mm", "Height", placeholder="as the picture"),
                Row("fills", "Cropped to fill the paper", kind=TICK),
                Row("viewing_mm", "Looked at from", placeholder="25 cm"),
                Row("keen", "By a keen eye: one arc minute", kind=TICK,
                    help="Else the classic one: 0.2 mm at 25 cm."),
            ),
            folded=True,
            when=("way", ("print",)),
        ),
        Section(
            "A screen, pixels, or a part of the frame",
            (
                Row("screen_pixels", "Screen pixels across the picture", placeholder="3840"),
                Row("pixels", "The sensor’s own pixels", placeholder="1"),
                Row("parts", "One part of the diagonal in", placeholder="1500"),
            ),
            folded=True,
            when=("way", ("screen", "pixels", "diagonal")),
        ),
        Section(
            "A circle, or stops from another standard",
            (
                Row("circle_mm", "Circle of confusion", unit="mm", placeholder="0.025"),
                Row("than", "Tighter than", kind=CHOICE),
                Row("stops", "by stops", placeholder="1"),
            ),
            folded=True,
            when=("way", ("given", "tighter")),
        ),
        Section(
            "Diffraction",
            (Row("counts_diffraction", "Diffraction counts towards the circle", kind=TICK),),
            folded=True,
        ),
    )  # fmt: skip

    _NEEDED = {
        Way.PRINT: ("print_width_mm",),
        Way.SCREEN: ("screen_pixels",),
        Way.PIXELS: ("pixels",),
        Way.DIAGONAL: ("parts",),
        Way.GIVEN: ("circle_mm",),
        Way.TIGHTER: ("than", "stops"),
    }

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        if self.apart:  # what it is made from is looked at by whoever has it
            del self.fields["than"]
            return
        others = Standard.objects.filter(owner=self.owner).exclude(pk=self.instance.pk)
        than = self.fields["than"]
        assert isinstance(than, forms.ModelChoiceField)
        than.queryset = others
        than.empty_label = "choose one"

    def clean(self) -> dict[str, Any]:
        cleaned: dict[str, Any] = super().clean() or {}
        for name in self._NEEDED.get(Way(cleaned["way"]), ()) if "way" in cleaned else ():
            if name not in self.fields:
                if self.instance.than_id is None:
                    self.add_error("way", "The standard it was made from is gone.")
            elif cleaned.get(name) in (None, "") and name not in self.errors:
                self.add_error(name, "This way of saying it needs an answer here.")
        other, seen = (None if self.apart else cleaned.get("than")), 0
        while other is not None and seen < 20:
            if other.pk == self.instance.pk:
                self.add_error("than", "That one is itself made from this one.")
                break
            other, seen = other.than, seen + 1
        return cleaned
