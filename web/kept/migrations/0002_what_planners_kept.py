"""Plans, sets of positions and nights become things kept: each is its link from now on.

How a link is written stands here as it was when this was written, and must not follow later changes.
Every new key is above every old one, so that an old address can still be told by the old key.
"""

from urllib.parse import urlencode

from django.db import migrations

TOLD = ("lens_range", "lens_closest", "lens_pupils")
GEAR = (
    "lens", "format", "pixels_across", "focal_length_mm", "f_number", "circle_mm", "diffraction",
    "units", *TOLD, "upright",
)  # fmt: skip
OF_VIEW = (
    "place", "camera_height", "tilt_deg", "slope_deg", "moved", "look", "choose", "ring",
    "subject", "focus_by", "box", "box_at", "overlap", "bracket", "pause", "keep",
    "metered_f", "metered_time", "metered_iso", "iso", "time", "nd",
    "held", "steady", "leaves", "dusk", "trial_soft", "trial_sharp",
    "care_water", "care_edges", "care_sun", "care_road", "care_night",
)  # fmt: skip
OF_STREET = (
    "like", "near", "far", "count", "home", "locked", "speed", "angle_deg", "lag", "judge",
    "light", "iso_most", "slowest",
)  # fmt: skip
OF_SKY = (
    "star_px", "margin", "ring", "trail_px", "latitude", "direction", "height", "seconds", "light",
    "foreground",
)  # fmt: skip
MEANS_SOMETHING_EMPTY = (
    "lens", "pixels_across", "camera_height", "tilt_deg", "star_px", "like", "count",
)  # fmt: skip
"""Left out, each of these would be the sample's."""
UNSAID = {"look": "everything", "choose": "fixed"}
OF_A_MARK = {
    "how": "how",
    "error": "error_text",
    "share": "share_text",
    "stands": "stands_text",
    "at": "at_text",
    "speed": "speed_text",
}
PLAIN = {"how": "ring"}


def in_hand(row):
    """What was in hand, as texts."""
    return {
        "lens": row.lens,
        "format": row.format,
        "pixels_across": "" if row.pixels_across is None else str(row.pixels_across),
        "focal_length_mm": f"{row.focal_length_mm:.12g}",
        "f_number": f"{row.f_number:.12g}",
        "circle_mm": f"{row.circle_mm:.12g}",
        "diffraction": "1" if row.counts_diffraction else "",
        "upright": "1" if row.upright else "",
        "units": row.units,
    }


def link(names, texts, pairs=()):
    """The link that says these texts."""
    said = [
        (name, texts.get(name, ""))
        for name in names
        if name in MEANS_SOMETHING_EMPTY or texts.get(name, "") not in ("", UNSAID.get(name))
    ]
    return urlencode([*said, *pairs], safe="/'")


def link_of_plan(plan):
    texts = {
        **{name: str(text) for name, text in plan.folded.items()},
        **in_hand(plan),
        "place": plan.place,
        "camera_height": plan.camera_height_text,
        "tilt_deg": plan.tilt_text,
        "slope_deg": plan.slope_text,
        "moved": plan.moved_text,
        "look": plan.look,
        "choose": plan.choose,
        "ring": plan.ring_text,
    }
    marks = list(plan.marks.order_by("position"))
    more = {
        name: column
        for name, column in OF_A_MARK.items()
        if any(getattr(mark, column) != PLAIN.get(name, "") for mark in marks)
    }
    pairs = []
    for mark in marks:
        pairs += [
            ("mark_name", mark.name),
            ("mark_distance", mark.distance_text),
            ("mark_role", mark.role),
            *((f"mark_{name}", getattr(mark, column)) for name, column in more.items()),
        ]
    return link((*GEAR, *OF_VIEW), texts, pairs)


def link_of_texts(names):
    """How the link of something kept as texts is written."""

    def write(row):
        said = {name: str(text) for name, text in row.said.items()}
        return link((*GEAR, *names), {**said, **in_hand(row)})

    return write


TABLES = (
    ("plan", "view", "Plan", link_of_plan),
    ("set", "street", "PositionSet", link_of_texts(OF_STREET)),
    ("night", "sky", "Night", link_of_texts(OF_SKY)),
)


def move(apps, schema_editor):
    """Keep everything in the one table, what was deleted too."""
    new_model = apps.get_model("kept", "Kept")
    tables = [(kind, apps.get_model(app, model), write) for kind, app, model, write in TABLES]
    used = [new_model, *(model for _, model, _ in tables)]
    keys = (model._base_manager.order_by("-pk").values_list("pk", flat=True) for model in used)
    last = max((pks.first() or 0 for pks in keys), default=0)
    for kind, model, write in tables:
        rows = list(model._base_manager.order_by("pk"))
        new_key = {row.pk: last + at for at, row in enumerate(rows, start=1)}
        last += len(rows)
        new_model._base_manager.bulk_create(
            [
                new_model(
                    pk=new_key[row.pk],
                    owner_id=row.owner_id,
                    copied_from=new_key.get(row.copied_from),
                    kind=kind,
                    name=row.name,
                    note=getattr(row, "note", ""),
                    link=write(row),
                    lens=row.lens,
                    created=row.created_at,
                    changed=row.updated_at,
                    deleted=row.deleted_at,
                    was=row.pk,
                )
                for row in rows
            ],
            batch_size=500,
        )


class Migration(migrations.Migration):
    dependencies = [
        ("kept", "0001_kept"),
        ("view", "0006_a_third_along"),
        ("street", "0001_sets"),
        ("sky", "0001_nights"),
    ]

    operations = [migrations.RunPython(move, migrations.RunPython.noop)]
