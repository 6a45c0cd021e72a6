"""Drawings people judge by: comparison cards to their share, a drawing for every defect."""

from __future__ import annotations

import re
import unittest

from jubark_core.condition.scores import defects
from jubark_core.errors import InputError
from jubark_core.plates.crown_cards import QUANTITIES, crown_card, crown_cards
from jubark_core.plates.defects import defect_drawings

LEAVES = re.compile(r'data-part="leaves" data-count="([0-9]+)"')
TWIGS = re.compile(r'data-part="dead-twig" data-count="([0-9]+)"')


class Cards(unittest.TestCase):
    def test_every_five_per_cent_shows_the_share_that_is_gone(self) -> None:
        for quantity in QUANTITIES:
            cards = crown_cards(quantity)
            self.assertEqual([c["percent"] for c in cards], list(range(0, 101, 5)))
            left = [int(found[1]) if (found := LEAVES.search(c["svg"])) else 0 for c in cards]
            for card, leaves in zip(cards, left, strict=True):
                self.assertAlmostEqual(leaves / left[0], 1 - card["percent"] / 100, delta=0.002)
                self.assertIn(f"{card['percent']} %", card["svg"])

    def test_dieback_leaves_its_twigs_and_transparency_none(self) -> None:
        thin, died = crown_card("transparency_pct", 40), crown_card("dieback_pct", 40)
        self.assertIsNone(TWIGS.search(thin))
        leaves, twigs = (int(p.search(died)[1]) for p in (LEAVES, TWIGS))  # type: ignore[index]
        self.assertAlmostEqual(twigs / (leaves + twigs), 0.4, delta=0.002)

    def test_dieback_begins_above(self) -> None:
        """Where the first tenth has gone, the leaves that are left lie lower than those of a whole crown."""
        highest = [
            min(
                float(y)
                for _, y in re.findall(r"M([0-9.]+) ([0-9.]+)L", _leaves(crown_card("dieback_pct", p)))
            )
            for p in (0, 10, 40)
        ]
        self.assertEqual(highest, sorted(highest))
        self.assertGreater(highest[1], highest[0])

    def test_other_shares_and_quantities_are_refused(self) -> None:
        for quantity, percent in (
            ("dieback_pct", 7),
            ("dieback_pct", 105),
            ("dbh_cm", 5),
            ("dieback_pct", True),
        ):
            with self.subTest(quantity, percent=percent), self.assertRaises(InputError):
                crown_card(quantity, percent)


def _leaves(svg: str) -> str:
    return next(path for path in svg.split("<path") if 'data-part="leaves"' in path)


class Defects(unittest.TestCase):
    def test_every_defect_has_a_drawing_of_its_own_told_in_words(self) -> None:
        drawn = defect_drawings()
        self.assertEqual(set(drawn), set(defects()))
        self.assertEqual(len(set(drawn.values())), len(drawn))
        for defect, svg in drawn.items():
            self.assertIn(f"<title>{defects()[defect]['label']}</title>", svg)
