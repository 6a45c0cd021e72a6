"""The prior away from home: wild by area, planted by region and zone, the floor under hazards.

Planted street and park trees by region (A over 3 % of a town's planted trees, C 0.5 to 3 %, O 0.05 to 0.5
%): from memory of published street-tree inventories and practice, gathered apart from the flora. A question
mark allows one class more or less.
"""

from __future__ import annotations

import itertools
import math
import unittest
from pathlib import Path
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import FloraError, InputError
from jubark_core.flora.areas import said
from jubark_core.flora.checks import check_sources
from jubark_core.flora.load import FLORA_DIR, read_toml, shipped_flora
from jubark_core.flora.words import COMMONNESS
from jubark_core.naming.case import Case, read_case
from jubark_core.naming.engine import name_plant
from jubark_core.naming.prior import (
    ELSEWHERE,
    INVASIVE,
    MOST_FLOOR,
    NATIVE,
    NATURALISED,
    NEXT_DOOR,
    SAME_REGION,
    SUM_OF_FLOORS,
    hardy,
    hazards,
    place_of,
    prior_of,
)
from jubark_core.season import windows
from jubark_core.tests.profiles import examples

FLORA = shipped_flora()
CLASSES = ("absent", "rare", "occasional", "common", "abundant")
LETTER = {"A": "abundant", "C": "common", "O": "occasional"}
REGIONS = ("ENA", "PNW", "CAL", "NWE", "SEA")
AREA = {"ENA": "PEN", "PNW": "ORE", "CAL": "CAL", "NWE": "GRB", "SEA": "VIC"}
FILE = Path(__file__).parent / "vectors" / "planted.txt"


def table() -> list[tuple[str, str, str]]:
    """(taxon, region, letter) of every cell."""
    lines = FILE.read_text(encoding="utf-8").splitlines()
    rows = [line.split() for line in lines if not line.startswith("#")]
    return [(row[0], region, letter) for row in rows for region, letter in zip(REGIONS, row[1:], strict=True)]


def case(**more: Any) -> Case:
    return read_case({"on": "2026-07-10", "observations": [], **more}, FLORA)


def wild(taxon: str, area: str) -> float:
    """What the taxon weighs on the wild side there."""
    factors = prior_of(case(areas=[area], origin="wild", setting="unknown"), FLORA).factors[taxon]
    return factors["area"] * factors["commonness"]


class PlantedByRegion(unittest.TestCase):
    def test_the_flora_says_of_every_region_what_the_table_says(self) -> None:
        for taxon, region, letter in table():
            own = FLORA.taxa[taxon]["commonness"]["planted"].get(region, "absent")
            with self.subTest(taxon=taxon, region=region):
                if letter == ".":
                    self.assertIn(own, ("rare", "absent"))
                elif letter.endswith("?"):
                    apart = CLASSES.index(own) - CLASSES.index(LETTER[letter[0]])
                    self.assertLessEqual(abs(apart), 1)
                else:
                    self.assertEqual(own, LETTER[letter])

    def test_what_is_abundant_in_a_region_weighs_more_there_than_what_is_common(self) -> None:
        for region in REGIONS:
            log = prior_of(case(areas=[AREA[region]], setting="street"), FLORA).log
            cells = [(t, letter) for t, r, letter in table() if r == region]
            for (a, one), (b, two) in itertools.product(cells, cells):
                if (one, two) == ("A", "C"):
                    self.assertGreater(log[a], log[b], (region, a, b))

    def test_zones_count_at_both_ends(self) -> None:
        taxon = {"hardiness": [4, 7]}
        for zone, factor in (("3", 0.2), ("2b", 0.02), ("4a", 1.0), ("7b", 1.0), ("8a", 0.2), ("10", 0.02)):
            self.assertEqual(hardy(taxon, place_of(case(zone=zone)), FLORA), factor, zone)
        self.assertEqual(hardy(taxon, place_of(case()), FLORA), 1.0)  # no area, no factor
        self.assertEqual(hardy(taxon, place_of(case(areas=["SOA"])), FLORA), 0.02)  # zones 9 and 10

    def test_a_zone_is_refused_by_name(self) -> None:
        for zone in ("0", "14", "6c", "6 b", 6, "", None):
            with self.assertRaises(InputError) as caught:
                case(zone=zone)
            self.assertEqual(caught.exception.place, "zone")


class WildByArea(unittest.TestCase):
    def test_a_native_is_never_absent_at_home(self) -> None:
        for taxon in FLORA.leaves:
            for area in FLORA.taxa[taxon]["native"]:
                self.assertGreaterEqual(wild_value(taxon, area), COMMONNESS["rare"], (taxon, area))

    def test_the_defaults_by_nativity(self) -> None:
        # acer-nigrum: nothing said but of @75, @74, @72; nyssa next door; fagus grandifolia over an ocean
        for taxon, area, value in (
            ("hamamelis-virginiana", "TEX", NATIVE),
            ("ailanthus-altissima", "NWM", COMMONNESS["occasional"]),
            ("acer-negundo", "NSW", INVASIVE),
            ("platanus-x-hispanica", "VIC", NATURALISED),
            ("pseudotsuga-menziesii", "SAS", NEXT_DOOR),
            ("quercus-agrifolia", "UTA", SAME_REGION),
            ("fagus-grandifolia", "NSW", ELSEWHERE),
        ):
            with self.subTest(taxon=taxon, area=area):
                self.assertAlmostEqual(wild(taxon, area), value)

    def test_what_is_said_of_the_narrowest_wins(self) -> None:
        self.assertEqual(
            said({"@75": "rare", "PEN": "common", "world": "absent"}, ["PEN", "@75", "world"]), "common"
        )
        self.assertEqual(said({"@75": "rare", "world": "absent"}, ["PEN", "@75", "world"]), "rare")
        self.assertIsNone(said({"@74": "rare"}, ["PEN", "@75", "world"]))
        self.assertGreater(wild("abies-balsamea", "MAI"), wild("abies-balsamea", "PEN"))

    def test_poison_oak_stands_among_the_first_at_home_and_what_grows_elsewhere_does_not(self) -> None:
        log = prior_of(case(areas=["ORE"], setting="woodland"), FLORA).log
        ranked = sorted(FLORA.leaves, key=lambda t: -log[t])
        self.assertIn("toxicodendron-diversilobum", ranked[:12])
        self.assertNotIn("acer-rubrum", ranked[:40])

    def test_told_origin_is_never_certain(self) -> None:
        for origin, odds in (("planted", 0.97), ("wild", 0.97)):
            self.assertEqual(
                prior_of(case(areas=["PEN"], origin=origin), FLORA).factors["acer-rubrum"]["origin"], odds
            )
        self.assertAlmostEqual(case(areas=["GRB"], setting="woodland").planted, 0.35)
        self.assertAlmostEqual(case(areas=["PEN"], setting="woodland").planted, 0.05)
        self.assertAlmostEqual(case(areas=["GER"], setting="hedgerow").planted, 0.5)
        for areas in (["GRB", "PEN"], ["PEN", "GRB"]):
            self.assertAlmostEqual(case(areas=areas, setting="woodland").planted, 0.2)

    def test_species_that_are_missing_count_by_area(self) -> None:
        gums = {
            area: math.exp(prior_of(case(areas=[area], setting=setting), FLORA).log["eucalyptus-unlisted"])
            for area, setting in (
                ("NSW", "woodland"),
                ("CAL", "street"),
                ("GRB", "street"),
            )
        }
        self.assertGreater(gums["NSW"], 0.2)
        self.assertEqual(sorted(gums, key=lambda area: -gums[area]), ["NSW", "CAL", "GRB"])

    @examples(25)
    @given(st.sampled_from(sorted(FLORA.areas)), st.sampled_from(["woodland", "street", "park", "unknown"]))
    def test_in_every_area_of_the_world_it_is_a_distribution(self, area: str, setting: str) -> None:
        log = prior_of(case(areas=[area], setting=setting), FLORA).log
        self.assertAlmostEqual(math.fsum(map(math.exp, log.values())), 1, places=9)
        self.assertGreater(min(log.values()), -40)


def wild_value(taxon: str, area: str) -> float:
    word = said(FLORA.taxa[taxon]["commonness"]["wild"], FLORA.area[area]["said_under"])
    return NATIVE if word is None else COMMONNESS[word]


class HazardFloor(unittest.TestCase):
    PLACES = ("PEN", "ORE", "CAL", "GRB", "NSW", "COL", "GEO")

    def test_every_hazard_of_a_place_starts_at_the_floor_or_above(self) -> None:
        for area in self.PLACES:
            for setting in ("woodland", "street", "garden"):
                at = case(areas=[area], setting=setting)
                exposed = hazards(at, FLORA)
                floor = min(MOST_FLOOR, SUM_OF_FLOORS / len(exposed))
                prior = prior_of(at, FLORA)
                self.assertGreater(floor, 0.002, area)  # so that nothing is touched while one is possible
                for taxon in exposed:
                    self.assertGreaterEqual(math.exp(prior.log[taxon]), floor * (1 - 1e-9), (area, taxon))
                self.assertAlmostEqual(math.fsum(map(math.exp, prior.log.values())), 1, places=9)

    def test_it_is_a_factor_of_its_own_and_goes_with_the_prior(self) -> None:
        at = case(areas=["PEN"], setting="street")
        raised = {t for t, f in prior_of(at, FLORA).factors.items() if f.get("floor", 1) > 1}
        self.assertIn("toxicodendron-radicans", raised)
        for off in ({"off": ["floor"]}, "flat"):
            without = prior_of(case(areas=["PEN"], setting="street", prior=off), FLORA)
            self.assertFalse({t for t, f in without.factors.items() if "floor" in f})
        self.assertEqual(hazards(case(setting="street"), FLORA), [])

    def test_thorns_and_what_only_stock_dies_of_raise_nothing(self) -> None:
        exposed = hazards(case(areas=["PEN"]), FLORA)
        self.assertNotIn("gleditsia-triacanthos", exposed)
        self.assertNotIn("acer-rubrum", exposed)
        for taxon in (
            "taxus-x-media",
            "menispermum-canadense",
            "toxicodendron-vernix",
            "robinia-pseudoacacia",
        ):
            self.assertIn(taxon, exposed)

    def test_a_deadly_double_is_told_with_its_harmless_twin(self) -> None:
        looks = [
            {"character": "habit.climbs_by", "state": "tendrils", "certainty": "sure"},
            {"character": "leaf.margin", "states": ["coarse_teeth"], "certainty": "sure"},
            {"character": "leaf.lobes", "state": "palmate", "certainty": "sure"},
        ]
        answer = name_plant({"on": "2026-07-10", "areas": ["PEN"], "observations": looks}, FLORA)
        self.assertTrue(answer["candidates"][0]["taxon"].startswith("vitis"))
        [told] = [c for c in answer["cautions"] if c["taxon"] == "menispermum-canadense"]
        self.assertTrue(told["hazard"])
        harmful = [c["hazard"] for c in answer["cautions"]]
        self.assertEqual(harmful, sorted(harmful, reverse=True))  # what does harm comes first


class RefusedCommonness(unittest.TestCase):
    def refused(self, **changed: Any) -> FloraError:
        vocabulary, areas, families = (
            read_toml(FLORA_DIR / f"{name}.toml") for name in ("characters", "areas", "families")
        )
        path = FLORA_DIR / "taxa" / "menispermum.toml"
        data, text = read_toml(path), path.read_text(encoding="utf-8")
        data["taxon"][0] = {**data["taxon"][0], "deadly_double_of": [], "look_alikes": [], **changed}
        with self.assertRaises(FloraError) as caught:
            check_sources(vocabulary, areas, families, {path.name: (data, text)})
        return caught.exception

    def test_each_with_its_reason(self) -> None:
        for changed, said_ in (
            ({"wild": {"plentiful": "@75"}}, "plentiful"),
            ({"wild": {"common": "@99"}}, "unknown area"),
            ({"wild": {"common": "GRB"}}, "neither is native nor introduced"),
            ({"wild": {"absent": "@75"}}, "where it is native"),
            ({"wild": {"common": "PEN", "rare": "PEN"}}, "two classes"),
            ({"planted": {"common": "MOON"}}, "unknown area"),
            ({"trade": "stolen"}, "trade"),
            ({"poison": {"level": "deadly"}}, "poison"),
            ({"poison": {"level": "deadly", "parts": "all", "harms": ["cats"]}}, "harms"),
            ({"cautions": []}, "needs a caution"),
            ({"poison": None, "deadly_double_of": ["vitis-riparia"]}, "needs its poison"),
        ):
            with self.subTest(changed):
                self.assertIn(said_, str(self.refused(**changed)))

    def test_dates_of_the_south_shift_by_half_a_year(self) -> None:
        self.assertEqual(case(lat=-33.8, areas=["NSW"]).place, windows.Place(-33.8, None, None))
