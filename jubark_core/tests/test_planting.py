"""Planting: shares against the rule of thumb of Santamour (1990), what one more tree does, survival."""

from __future__ import annotations

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.flora.load import shipped_flora
from jubark_core.tests.profiles import examples
from jubark_core.work.planting import (
    LIMITS,
    Planted,
    StandingTree,
    planting_would_exceed,
    ranks_of,
    shares,
    survival,
)

FLORA = shipped_flora()
TAXA = (
    "acer-rubrum",
    "acer-saccharum",
    "aesculus-hippocastanum",
    "quercus-alba",
    "quercus",
    "",
    "tilia-cordata",
)
EXAMPLES = examples(60)


def trees(*taxa: str, spread_m: float | None = None) -> list[StandingTree]:
    return [StandingTree(taxon, spread_m) for taxon in taxa]


class Shares(unittest.TestCase):
    def test_the_rule_of_thumb(self) -> None:
        self.assertEqual(LIMITS, {"species": 0.10, "genus": 0.20, "family": 0.30})

    def test_by_hand_ten_trees(self) -> None:
        stand = trees(*["acer-rubrum"] * 2, "acer-saccharum", "aesculus-hippocastanum", *["quercus-alba"] * 6)
        by = {(s.rank, s.taxon): s for s in shares(stand, FLORA)}
        for rank, taxon, stems, over in (
            ("species", "acer-rubrum", 2, True),
            ("species", "acer-saccharum", 1, False),
            ("genus", "acer", 3, True),
            ("family", "sapindaceae", 4, True),  # maples and horse-chestnut are of one family
            ("genus", "quercus", 6, True),
        ):
            with self.subTest(taxon):
                share = by[rank, taxon]
                self.assertEqual((share.stems, share.of_stems, share.over), (stems, stems / 10, over))

    def test_a_few_wide_crowns_count_for_what_they_cover(self) -> None:
        stand = [*trees("quercus-alba", spread_m=20), *trees(*["tilia-cordata"] * 19, spread_m=4)]
        oak = next(s for s in shares(stand, FLORA) if s.taxon == "quercus-alba")
        self.assertEqual(oak.of_stems, 0.05)
        # 20 m: 314 m2 of 314 + 19 x 12.57 = 553 m2
        self.assertAlmostEqual(oak.of_crown, 400 / (400 + 19 * 16))
        self.assertTrue(oak.over, "by crown area, though not by stems")
        self.assertAlmostEqual(StandingTree("acer", 20).crown_m2, math.pi * 100)

    def test_a_name_at_a_genus_counts_there_and_no_name_nowhere(self) -> None:
        self.assertEqual(ranks_of("quercus", FLORA), {"genus": "quercus", "family": "fagaceae"})
        self.assertEqual(ranks_of("", FLORA), {})
        stand = trees("quercus", "", "", "")
        self.assertEqual(
            [(s.taxon, s.of_stems) for s in shares(stand, FLORA)], [("quercus", 0.25), ("fagaceae", 0.25)]
        )
        self.assertEqual(shares([], FLORA), [])

    @EXAMPLES
    @given(st.lists(st.tuples(st.sampled_from(TAXA), st.floats(0, 30)), min_size=1, max_size=60))
    def test_a_whole_is_no_smaller_than_its_parts(self, rows: list[tuple[str, float]]) -> None:
        found = shares([StandingTree(taxon, spread) for taxon, spread in rows], FLORA)
        for rank in LIMITS:
            of_rank = [s for s in found if s.rank == rank]
            self.assertLessEqual(math.fsum(s.of_stems for s in of_rank), 1 + 1e-9)
            self.assertLessEqual(math.fsum(s.of_crown for s in of_rank), 1 + 1e-9)
        maples = {s.taxon: s for s in found}
        for part, whole in (("acer-rubrum", "acer"), ("acer", "sapindaceae")):
            if part in maples:
                self.assertLessEqual(maples[part].stems, maples[whole].stems)

    def test_one_more_is_weighed_before_it_is_planted(self) -> None:
        stand = trees(*["acer-rubrum"] * 10, *["tilia-cordata"] * 40, *["quercus-alba"] * 50)
        over = planting_would_exceed(stand, "acer-rubrum", FLORA)
        self.assertEqual([(s.rank, s.stems) for s in over], [("species", 11)], "10.9 % of 101")
        self.assertEqual(planting_would_exceed(stand, "aesculus-hippocastanum", FLORA), [])
        self.assertEqual(
            {s.rank for s in planting_would_exceed(stand, "quercus-rubra", FLORA)}, {"genus", "family"}
        )
        wide = planting_would_exceed(trees(*["tilia-cordata"] * 30, spread_m=3), "quercus-alba", FLORA, 20)
        self.assertEqual({s.rank for s in wide}, {"species", "genus", "family"}, "by the crown it grows to")


class Survived(unittest.TestCase):
    def test_by_taxon_and_block_the_worst_first(self) -> None:
        rows = [Planted("acer", "yard", alive) for alive in (True, False, False, True)]
        rows += [Planted("tilia", "yard", True), Planted("acer", "wood", False)]
        told = [(s.taxon, s.block, s.planted, s.alive, s.share) for s in survival(rows)]
        self.assertEqual(
            told, [("acer", "wood", 1, 0, 0.0), ("acer", "yard", 4, 2, 0.5), ("tilia", "yard", 1, 1, 1.0)]
        )
        self.assertEqual(survival([]), [])
