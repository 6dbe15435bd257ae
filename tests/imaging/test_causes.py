"""Some of the frames of the campaign of hidden causes: what is named first, from the file alone."""

from __future__ import annotations

import unittest

from tests import some
from tests.imaging.causes import hidden, said


class CausesTest(unittest.TestCase):
    """Some frames every day; ``python -m tests.imaging.causes`` has fifty."""

    def test_the_first_cause_is_named_right_and_what_is_sharp_is_not_called_soft(self) -> None:
        frames = list(hidden())
        wrong = []
        for one in some((*frames[:8], *frames[40:42]), 10, first=1):
            _, what = said(one)
            if what != str(one.cause):
                wrong.append((one.seed, str(one.cause), what))
        self.assertEqual(wrong, [])
