"""Faults that change nothing anybody could see, and why.

Each: what the path, the line of code and the fault's own words match, and the reason. A fault is
counted out only where it survived as well.
"""

from __future__ import annotations

SEARCH = "a bound or a step of a search that closes on the same value"
HAIR = "a hair's breadth against rounding: ten per cent of it is no distance"
CACHE = "how much is kept to be quick"

MEANINGLESS: tuple[tuple[str, str, str, str], ...] = (
    ("", r"^_?[A-Z_]*(HAIR|SAME|TOLERANCE|AGREED|NEVER|CLOSE)\b", "", HAIR),
    ("", r"_HAIR|1e-1[0-9]|1e-9", "1e-|1 changed|1.0 changed|Mult|Add|Sub|Lt|Gt", HAIR),
    ("", r"^_(MOST_STEPS|LOOKS|ROUNDS|FIRST_STEP|ABOUT)\b", "", SEARCH),
    ("", r"range\(_(MOST_STEPS|LOOKS|ROUNDS)\)", "", SEARCH),
    ("", r"low <= \w+ <= high|0\.5 \* step|0\.5 \* \(low \+ high\)", "", SEARCH),
    ("optics", r"tolerance|_AGREED|if abs\(step\)|excess_before", "", SEARCH),
    ("optics/zones/from_list", r"closely|middle =|trials", "", SEARCH),
    ("", r"field\(init=False", "", "set before it is read"),
    (
        "optics/scene/choosing",
        r"scene.school == FRAMES.key or|nearest_focus",
        "",
        "which apertures are not worth trying: those tried say the same",
    ),
    ("", r"significant\(.*f_number, 3\)", "3 changed", "no f-number has four figures"),
    (
        "web/.*/pictures",
        r"DistanceScale\(.*0\.0, 1\.0\)",
        "",
        "how wide an axis is does not matter to the depths that are sampled on it",
    ),
    ("web/ui/templatetags/format", r"value < 100", "Lt for LtE", "100 is written the same by both"),
    ("web/ui/press", r"process.wait\(\)", "", "what is stopped is waited for by the next"),
    ("optics/command", r"help=", "help= left out", "what a command says of its options"),
    (
        "optics/zones",
        r"nearest < d < farthest|start <= found",
        "Lt|LtE",
        "where two meet exactly there is nothing between",
    ),
    ("optics/lens/wave|optics/sky/parts", r"excess|1\.0, -1\.0", "", "the same by both"),
    ("optics/base/systems", r"_INCH_STEPS", "", "steps of an axis: other rooms draw it"),
    ("web/serving", r"keepalive|graceful", "", "how a server is tuned"),
    ("", r"lru_cache|maxsize|_KEPT", "", CACHE),
)
