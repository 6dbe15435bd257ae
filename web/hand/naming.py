"""A lens and what is behind it, by the names that a planner's texts say them by."""

from __future__ import annotations

from web.bag.models import Attachment, Lens


def named(
    text: str, lenses: list[Lens], attachments: list[Attachment]
) -> tuple[Lens | None, Attachment | None]:
    """The lens, and what is on it, that a planner's text names: ``50 mm + 1.4× converter``."""
    for lens in lenses:
        if text == lens.name:
            return lens, None
        for attachment in attachments:
            if text == together(lens, attachment):
                return lens, attachment
    return None, None


def together(lens: Lens, attachment: Attachment | None) -> str:
    """Both names, as a planner's lens field says them; at most as long as that field takes."""
    return (lens.name if attachment is None else f"{lens.name} + {attachment.name}")[:80]
