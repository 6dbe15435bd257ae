"""Faults that change nothing anybody could see, and why.

Each: what the path, the line of code and the fault's own words match, and the reason. A fault is
counted out only where it survived as well. No pattern is wider than the fault that was looked at:
a sign in ``1 + _HAIR`` is not in it, for it decides whether what just holds does.
"""

from __future__ import annotations

SEARCH = "a bound or a step of a search that closes on the same value"
HAIR = "a hair's breadth against rounding: ten per cent of it is no distance"
CACHE = "how much is kept to be quick"

MEANINGLESS: tuple[tuple[str, str, str, str], ...] = (
    ("", r"^_?[A-Z_]*(HAIR|SAME|TOLERANCE|AGREED|NEVER|CLOSE)\b", "", HAIR),
    ("", r"_HAIR|1e-1[0-9]|1e-9", "1e-|Lt for LtE|LtE for Lt|Gt for GtE|GtE for Gt", HAIR),
    ("", r"^_(MOST_STEPS|LOOKS|ROUNDS|FIRST_STEP|ABOUT)\b", "", SEARCH),
    ("", r"range\(_(MOST_STEPS|LOOKS|ROUNDS)\)", "", SEARCH),
    ("", r"low <= \w+ <= high|0\.5 \* step|0\.5 \* \(low \+ high\)", "", SEARCH),
    ("optics/sky/star_field", r"_AGREED", "Sub for Add", SEARCH),
    ("optics/lens/wave", r"excess_before = white", "Sub for Add", SEARCH),
    ("optics/zones/from_list", r"closely|middle =|trials", "", SEARCH),
    ("", r"field\(init=False", "", "set before it is read"),
    ("", r"significant\(.*f_number, 3\)", "3 changed", "no f-number has four figures"),
    (
        "web/.*/pictures",
        r"DistanceScale\(.*0\.0, 1\.0\)",
        "",
        "how wide an axis is does not matter to the depths that are sampled on it",
    ),
    ("web/ui/templatetags/format", r"value < 100", "Lt for LtE", "100 is written the same by both"),
    ("web/bag/bodies", r"own_width_mm or 1", "", "a body of an own format has its sides"),
    ("web/bag/forms", r"seen < 20", "20 changed", "where a circle of standards is given up"),
    ("web/street/pictures", r"40\.0 \*", "40.0 changed", "where an axis without ends begins"),
    ("web/street/streets", r"rel_tol=1e-6", "1e-06 changed", HAIR),
    ("web/street/placing", r"near \* _NEARLY|near \* \(1 \+ SAME\)", "Lt|LtE", HAIR),
    ("web/ui/press_room", r"FAR_OVER", "Gt for GtE", SEARCH),
    ("web/ui/templatetags/format", r"_WIDER", "Lt for LtE", HAIR),
    ("web/ui/press", r"process.wait\(\)", "", "what is stopped is waited for by the next"),
    ("optics/command", r"help=", "help= left out", "what a command says of its options"),
    (
        "optics/zones",
        r"nearest < d < farthest|start <= found",
        "Lt|LtE",
        "where two meet exactly there is nothing between",
    ),
    ("optics/sky/parts", r"1\.0, -1\.0", "Mult for Div", "by one or minus one: the same by both"),
    (
        "optics/scene/schools",
        r"insurance_for_method\(",
        "rings= left out",
        "found again where not given",
    ),
    ("optics/lens/equal_blur", r"1e-15 \* sharp|np\.minimum\(sharp \+ step", "", SEARCH),
    ("optics/lens/ring", r"share < 0.5, from_low", "Lt for LtE", "half way both are the same"),
    ("optics/lens/touch", r"self._start\) \* self.sense", "Mult for Div", "by one or minus one"),
    ("optics/light/exposure", r"missing > _NO_STOPS", "Gt for GtE", HAIR),
    ("optics/base/search", r"moved = -?1", "1 changed", "only its sign is asked"),
    ("optics/lens/equal_blur", r"np\.minimum\(sharp", "1.0 changed", SEARCH),
    ("optics/zones/tiling", r"above = guess", "Mult for Div", SEARCH),
    ("optics/zones/from_list", r"2\.0 \* self\.count \* hyperfocal|hyperfocal =", "", SEARCH),
    ("optics/scene/answer", r"\(1 \+ _UNSEEN\)", "Gt for GtE", HAIR),
    ("optics/scene/placing", r"self.seen.between or 0.0", "0.0 changed", "the larger counts"),
    (
        "optics/zones/coverage",
        r"np.maximum\(limits\[1\], 1.0\)",
        "1.0",
        "clipped after",
    ),
    ("optics/lens/aperture", r"^_WIDENINGS\b", "", SEARCH),
    ("optics/lens/focus_window", r"^    past = -0\.5", "Mult for Div", SEARCH),
    ("optics/zones/stretches", r"all_held\.far\)", "posinf= left out", "as far as any number goes"),
    ("web/serving", r"keepalive|graceful", "", "how a server is tuned"),
    ("", r"lru_cache|maxsize|_KEPT", "", CACHE),
    ("web/bag/files", r"allow_nan=False", "False for True", "all is made finite before"),
    ("web/(bag|kept)/", r"(blank|editable|max_length)=", "left out", "their forms hold them to it"),
    ("web/bag/lens_form", r"units\.significant\(", "changed", "a figure of what is worked out"),
    ("web/bag/touch", r"^_UNSURE", "", "a guess where nobody said"),
    ("web/bag/touch", r"window\.(nearest|farthest) \* \(1 [-+] _HAIR\)", "for (Mult|Div)", HAIR),
    ("web/people/owners", r"key < 2\*\*63", "63 changed", "no key is as large"),
    ("web/people/owners", r"update_fields=", "left out", "all fields are as they were"),
    ("web/planner/axis", r"^(MOST_STEPS|STEPS_ACROSS)", "", "how many presses cross an axis"),
    ("web/planner/reading", r"_SAME_LENGTH", "LtE for Lt|Lt for LtE", HAIR),
    ("web/running/counters", r"^BOUNDS", "changed", "where a bar of a chart ends"),
    ("web/sky/skies", r"^_STRAIGHT_UP", "", HAIR),
    ("web/sky/usecases", r"\(1 \+ 1e-9\)", "Add for Sub", HAIR),
    ("web/ui/preferences", r"^_A_YEAR", "", "how long a browser remembers a light"),
    ("web/ui/press", r"^WAIT|self\._jobs = 0", "changed", "when a press starts anew"),
    ("web/hand/typical", r"len\(at\) < 4", "Lt for LtE", "there are not as many"),
    ("web/sky/foreground", r"^_ROUNDED", "Add for Sub|changed", HAIR),
    ("web/view/ways", r"cost.worst if cost", "0.0 changed", "nothing is shown where nothing costs"),
    ("web/ui/templatetags/words", r"value >= 0.005", "changed", "where a length is as good as 0"),
    ("web/(planner/steps|sky|hand)", r"urlencode\(safe=", "safe= left out", "how an address looks"),
)
