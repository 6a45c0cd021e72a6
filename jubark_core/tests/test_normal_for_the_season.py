"""Seasonal colour is not decline: what is normal raises no flag, in both hemispheres. Common practice."""

from __future__ import annotations

import unittest
from typing import Any

from jubark_core.flora.load import shipped_flora
from jubark_core.signs.diagnose import diagnose

FLORA = shipped_flora()
NORTH = {"lat": 40.5, "lon": -79.3, "areas": ["PEN"]}
SOUTH = {"lat": -40.5, "lon": 145.5, "areas": ["TAS"]}
# what, taxon, day in the north, sign
CASES = (
    ("winter bronze", "juniperus-virginiana", "2026-01-15", "bronzed_winter"),
    ("winter bronze", "thuja-occidentalis", "2026-02-10", "bronzed_winter"),
    ("winter bronze", "buxus-sempervirens", "2026-01-15", "bronzed_winter"),
    ("leaves rolled by cold", "rhododendron-maximum", "2026-01-20", "leaves_rolled"),
    ("yellow inner needles", "pinus-strobus", "2026-10-01", "needles_inner_yellow"),
    ("yellow inner needles", "thuja-occidentalis", "2026-10-05", "needles_inner_yellow"),
    ("held leaves", "quercus-alba", "2026-01-15", "leaves_hang_dead"),
    ("held leaves", "fagus-grandifolia", "2026-02-15", "leaves_hang_dead"),
    ("leafless larch", "larix-decidua", "2026-01-15", "leafless"),
    ("leafless bald-cypress", "taxodium-distichum", "2026-01-15", "leafless"),
    ("leafless dawn redwood", "metasequoia-glyptostroboides", "2026-01-15", "leafless"),
    ("leafless maple", "acer-rubrum", "2026-01-15", "leafless"),
    ("bark plates", "platanus-occidentalis", "2026-07-15", "bark_plates_normal"),
    ("bark plates", "betula-papyrifera", "2026-07-15", "bark_plates_normal"),
    ("spring leaf drop", "ilex-opaca", "2026-04-25", "leaf_drop_spring"),
    ("spring leaf drop", "magnolia-grandiflora", "2026-05-10", "leaf_drop_spring"),
    ("late leafer", "catalpa-speciosa", "2026-05-05", "late_leaf_out"),
    ("late leafer", "gymnocladus-dioicus", "2026-05-05", "late_leaf_out"),
    ("dropped twigs", "quercus-alba", "2026-10-01", "twigs_dropped"),
    ("autumn colour", "acer-rubrum", "2026-10-10", "yellow_all"),
)
# where half a year on is not the day: autumn is later round the Tasman Sea (from memory: late April to mid
# May)
IN_THE_SOUTH = {"autumn colour": "2026-05-01"}
# the same sign out of its season, or on a plant that does not do so: no longer waved through
NOT_NORMAL = (
    ("larix-decidua", "2026-07-01", "leafless"),
    ("acer-rubrum", "2026-07-01", "leafless"),
    ("pinus-strobus", "2026-06-01", "needles_inner_yellow"),
    ("acer-rubrum", "2026-01-15", "leaves_hang_dead"),
    ("catalpa-speciosa", "2026-07-10", "late_leaf_out"),
    ("picea-abies", "2026-01-15", "leafless"),
)


def answer(taxon: str, on: str, sign: str, **more: Any) -> Any:
    case = {"on": on, "host": [{"taxon": taxon, "probability": 1}], "signs": [{"sign": sign}]}
    return diagnose({**case, **NORTH, **more}, FLORA)


def half_a_year_on(on: str) -> str:
    year, month, day = (int(part) for part in on.split("-"))
    return f"{year}-{(month + 5) % 12 + 1:02d}-{min(day, 28):02d}"


class NormalForTheSeason(unittest.TestCase):
    def test_what_is_normal_leads_and_says_why(self) -> None:
        for what, taxon, on, sign in CASES:
            with self.subTest(what, taxon=taxon):
                found = answer(taxon, on, sign)
                self.assertGreater(found["normal"], 0.8)
                self.assertTrue(found["summary"].startswith("Normal for the season."))
                self.assertTrue(found["normal_because"])
                self.assertEqual((found["response"], found["report"], found["sample"]), ([], [], None))
                grave = [c for c in found["candidates"] if c["class"] in ("serious", "kills")]
                self.assertLess(sum(c["probability"] for c in grave), 0.1)

    def test_south_of_the_equator_half_a_year_later(self) -> None:
        for what, taxon, on, sign in CASES:
            with self.subTest(what, taxon=taxon):
                day = IN_THE_SOUTH.get(what) or half_a_year_on(on)
                self.assertGreater(answer(taxon, day, sign, **SOUTH)["normal"], 0.75)

    def test_out_of_season_it_is_looked_into(self) -> None:
        for taxon, on, sign in NOT_NORMAL:
            with self.subTest(taxon, on=on):
                self.assertLess(answer(taxon, on, sign)["normal"], 0.4)

    def test_a_dead_top_over_a_live_crown_is_normal_on_a_veteran_only(self) -> None:
        self.assertGreater(answer("quercus-robur", "2026-07-01", "stag_head", stage="veteran")["normal"], 0.7)
        self.assertLess(answer("quercus-robur", "2026-07-01", "stag_head")["normal"], 0.1)

    def test_a_borer_in_a_leafless_larch_is_still_seen(self) -> None:
        case = {
            "on": "2026-01-15",
            "host": [{"taxon": "larix-decidua", "probability": 1}],
            "signs": [{"sign": "leafless"}, {"sign": "fan_under_bark"}, {"sign": "bootlaces"}],
        }
        found = diagnose(case | NORTH, FLORA)
        self.assertEqual(found["candidates"][0]["agent"], "armillaria")
        self.assertGreater(found["candidates"][0]["probability"], 0.8)
