"""What follows from the size of a tree: protection, mass, growth, space.

Expected values: BS 5837:2012 clause 4.6, AS 4970-2009 section 3, Jenkins et al. (2003) tables 4 and 6, all
from memory as printed among the check values of the design; plane geometry.
"""

from __future__ import annotations

import datetime
import math
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import InputError, OutOfRangeError
from jubark_core.flora.load import shipped_flora
from jubark_core.size.biomass import biomass_kg, carbon, component_ratio, groups
from jubark_core.size.growth import Taken, diameter_error_cm, diameter_growth_from_rings, growth
from jubark_core.size.protect import protection, standards, structural_root_radius
from jubark_core.size.space import near_things, space_check
from jubark_core.tests.profiles import examples

EXAMPLES = examples(100)
FLORA = shipped_flora()
DAY = datetime.date
THREE, SIX = [15.0, 20.0, 25.0], [10.0, 12.0, 14.0, 16.0, 18.0, 20.0]


def protect(standard: str, stems_cm: list[float], **more: Any) -> Any:
    """The zone of a tree taped at the standard's own height."""
    at = {"at_height_m": standards()[standard]["height_m"], **more}
    return protection({"standard": standard, "stems_cm": stems_cm, **at})  # type: ignore[typeddict-item]


class Protecting(unittest.TestCase):
    def test_published_values(self) -> None:
        for standard, dbh, radius, area in (
            ("as4970", 45, 5.4, 91.60884),
            ("as4970", 10, 2, 12.56637),
            ("as4970", 160, 15, 706.8583),
            ("bs5837", 60, 7.2, 162.8602),
            ("bs5837", 140, 15, 706.8583),
            ("foot_per_inch", 20 * 2.54, 20 * 0.3048, None),
            ("foot_and_half_per_inch", 20 * 2.54, 30 * 0.3048, None),
        ):
            zone = protect(standard, [dbh])
            self.assertAlmostEqual(zone["radius_m"], radius, delta=radius * 1e-6)
            self.assertAlmostEqual(zone["area_m2"], area or math.pi * radius**2, delta=1e-3)
            self.assertEqual(zone["warnings"], [])

    def test_each_standard_has_its_own_rule_for_several_stems(self) -> None:
        for standard, stems, dbh, radius in (
            ("bs5837", THREE, 35.35534, 4.242641),
            ("as4970", THREE, 35.35534, 4.242641),
            ("foot_per_inch", THREE, 42.5, 42.5 / 2.54 * 0.3048),
            ("bs5837", SIX, 36.74235, 4.409082),
            ("as4970", SIX, 37.68289, 4.521947),
        ):
            with self.subTest(standard, stems=len(stems)):
                zone = protect(standard, stems)
                self.assertAlmostEqual(zone["dbh_cm"], dbh, delta=dbh * 1e-6)
                self.assertAlmostEqual(zone["radius_m"], radius, delta=radius * 1e-6)
        self.assertAlmostEqual(protect("bs5837", THREE)["area_m2"], 56.54867, delta=1e-4)
        self.assertAlmostEqual(42.5 / 2.54, 16.73, delta=0.005)
        self.assertAlmostEqual(protect("foot_per_inch", THREE)["radius_m"], 5.10, delta=0.005)

    def test_a_record_taken_otherwise_is_said(self) -> None:
        for standard, at, said in (
            ("bs5837", 1.3, "taken at 1.30 m, the standard asks for 1.50 m"),
            ("as4970", 1.3, "taken at 1.30 m, the standard asks for 1.40 m"),
            ("foot_per_inch", 1.3, "taken at 1.30 m, the standard asks for 1.37 m"),
            ("bs5837", None, "the height of the tape is not known, the standard asks for 1.50 m"),
        ):
            self.assertEqual(protect(standard, THREE, at_height_m=at)["warnings"], [said])
        self.assertEqual(protect("foot_per_inch", THREE, at_height_m=1.37)["warnings"], [])  # 4.5 ft
        lost = protect("bs5837", [42.5], combined="largest_plus_half")
        self.assertIn("by another rule", lost["warnings"][0])
        self.assertEqual(protect("bs5837", THREE, combined="largest_plus_half")["warnings"], [])
        feet = protect("bs5837", THREE, at_height_m=1.3, units="us_customary")["warnings"]
        self.assertEqual(feet, ["taken at 4.27 ft, the standard asks for 4.92 ft"])

    def test_a_veteran_takes_the_larger_of_fifteen_diameters_and_five_metres_past_its_crown(self) -> None:
        old = protect("bs5837", THREE, at_height_m=1.3, veteran=True, crown_edge_m=9)
        self.assertEqual((old["radius_m"], old["standard"]), (14.0, "veteran"))
        self.assertEqual(protect("bs5837", [140], veteran=True, crown_edge_m=9)["radius_m"], 21.0)
        self.assertEqual(protect("bs5837", [140], veteran=True)["radius_m"], 21.0)
        self.assertEqual(protect("as4970", [5], veteran=True)["radius_m"], 2.0, "the standard asks for more")

    def test_no_stem_and_no_standard_are_refused(self) -> None:
        for standard, stems in (("bs5837", []), ("veteran", [30.0]), ("bs5837", [0.0])):
            with self.subTest(standard), self.assertRaises(InputError):
                protect(standard, stems)

    @EXAMPLES
    @given(
        st.sampled_from([s for s in standards() if s != "veteran"]),
        st.lists(st.floats(1, 200), min_size=1, max_size=8),
        st.floats(1, 200),
    )
    def test_one_stem_more_never_asks_for_less_but_where_the_mean_is_taken(
        self, standard: str, stems: list[float], more: float
    ) -> None:
        before, after = protect(standard, stems), protect(standard, [*stems, more])
        if standards()[standard]["several"] != "squares_then_mean":
            self.assertGreaterEqual(after["radius_m"], before["radius_m"] - 1e-9)
        self.assertAlmostEqual(after["area_m2"], math.pi * after["radius_m"] ** 2, delta=1e-6)

    def test_structural_root_radius_above_the_buttress(self) -> None:
        for above_cm, radius in ((50, 2.473516), (100, 3.309386), (14, 1.5), (15, 1.5)):
            self.assertAlmostEqual(structural_root_radius(above_cm).radius_m, radius, delta=radius * 1e-6)


def mass_of(taxon: str, *stems_cm: float, open_grown: bool = False, **more: Any) -> Any:
    """The answer for one tree."""
    tree = {"taxon": taxon, "stems_cm": list(stems_cm), **more}
    return carbon({"trees": [tree], "open_grown": open_grown}, FLORA)["trees"][0]  # type: ignore[typeddict-item]


class CarbonOfTrees(unittest.TestCase):
    def test_biomass_of_thirty_centimetres_by_group(self) -> None:
        for group, kg in (
            ("aspen_alder_cottonwood_willow", 368.057),
            ("soft_maple_birch", 460.297),
            ("mixed_hardwood", 390.2836),
            ("hard_maple_oak_hickory_beech", 526.6281),
            ("cedar_larch", 284.401),
            ("douglas_fir", 437.2153),
            ("true_fir_hemlock", 365.5237),
            ("pine", 312.9287),
            ("spruce", 349.084),
        ):
            self.assertAlmostEqual(biomass_kg(group, 30), kg, delta=kg * 1e-6)
        self.assertAlmostEqual(biomass_kg("mixed_hardwood", 2.5), 0.8151428, delta=1e-6)

    def test_components_as_shares_of_the_mass_above_ground(self) -> None:
        for kind, part, share in (
            ("hardwood", "coarse roots", 0.1893989),
            ("softwood", "coarse roots", 0.2144125),
            ("hardwood", "foliage", 0.02054276),
        ):
            self.assertAlmostEqual(component_ratio(kind, part, 30), share, delta=1e-6)
        oak = mass_of("quercus-alba", 30)
        self.assertEqual([c["part"] for c in oak["components"]], ["coarse roots", "foliage"])
        self.assertAlmostEqual(oak["components"][0]["kg"], 526.6281 * 0.1893989, delta=1e-3)

    def test_shoot_by_shoot_and_what_is_too_thin_is_counted(self) -> None:
        oak = mass_of("quercus-alba", 30, 20, 1)
        sum_of = biomass_kg("hard_maple_oak_hickory_beech", 30) + biomass_kg(
            "hard_maple_oak_hickory_beech", 20
        )
        self.assertAlmostEqual(oak["biomass_kg"], sum_of)
        self.assertEqual((oak["shoots"], oak["shoots_refused"]), (2, 1))
        self.assertLess(oak["biomass_kg"], mass_of("quercus-alba", math.hypot(30, 20))["biomass_kg"])

    def test_groups_of_common_street_trees(self) -> None:
        for taxon, group in (
            ("acer-rubrum", "soft maple and birch"),
            ("acer-saccharum", "hard maple, oak, hickory and beech"),
            ("acer-platanoides", "mixed hardwood, the group of hardwoods without one of their own"),
            ("zelkova-serrata", "mixed hardwood, the group of hardwoods without one of their own"),
            ("pyrus-calleryana", "mixed hardwood, the group of hardwoods without one of their own"),
            ("gleditsia-triacanthos", "mixed hardwood"),
            ("taxodium-distichum", "cedar and larch"),
        ):
            self.assertEqual(mass_of(taxon, 30)["group"], group, taxon)
        named = [t for g in groups().values() for t in g.get("taxa", ())]
        self.assertEqual([t for t in named if t not in FLORA.taxa], [])

    def test_what_no_equation_was_made_for_is_refused_with_its_reason_and_counted(self) -> None:
        refused = (
            ({"taxon": "buxus-sempervirens", "stems_cm": [30.0]}, "no tree"),
            ({"taxon": "quercus-alba", "stems_cm": [30.0], "topped": True}, "top is broken"),
            ({"taxon": "quercus-alba", "stems_cm": [30.0], "life": "resprout"}, "top is broken"),
            ({"taxon": "quercus-alba", "stems_cm": [30.0], "life": "standing_dead"}, "standing dead"),
            ({"taxon": "ginkgo-biloba", "stems_cm": [30.0]}, "none of the groups"),
            ({"taxon": "", "stems_cm": [30.0]}, "no name"),
            ({"taxon": "quercus-alba", "stems_cm": [1.0, 2.0]}, "no shoot reaches"),
        )
        trees = [{"taxon": "quercus-alba", "stems_cm": [30.0]}, *(tree for tree, _ in refused)]
        found = carbon({"trees": trees}, FLORA)  # type: ignore[typeddict-item]
        for told, (_, why) in zip(found["trees"][1:], refused, strict=True):
            self.assertIn(why, told["refused"])
            self.assertEqual((told["co2e_kg"], told["components"]), (0.0, []))
        total = found["total"]
        self.assertAlmostEqual(total["co2e_kg"], 965.4849, delta=1e-3)
        self.assertEqual((total["trees"], sum(r["trees"] for r in total["refused"])), (1, 7))
        self.assertEqual(total["refused"][0]["trees"], 2)

    def test_open_grown_is_eight_tenths_and_printed(self) -> None:
        closed, opened = mass_of("quercus-alba", 30), mass_of("quercus-alba", 30, open_grown=True)
        self.assertAlmostEqual(opened["co2e_kg"], 0.8 * closed["co2e_kg"])
        self.assertIn("open-grown × 0.8 (Nowak 1994)", opened["source"])
        self.assertNotIn("Nowak", closed["source"])
        self.assertIn("Outside the range", mass_of("quercus-alba", 120)["outside"])
        self.assertEqual(closed["outside"], "")


def taken(cm: float, year: int, at_m: float | None = 1.37, method: str = "taped") -> Taken:
    """A diameter of a first of May."""
    return Taken(cm, DAY(year, 5, 1), at_m, diameter_error_cm(cm, method))


class Growing(unittest.TestCase):
    def test_with_its_band_from_the_error_of_both_readings(self) -> None:
        plain = growth(taken(30.0, 2022), taken(32.0, 2026))
        self.assertAlmostEqual(plain.cm_a_year, 0.5, delta=0.001)
        self.assertAlmostEqual(plain.band_cm, math.hypot(0.254, 0.254) / 4, delta=0.001)
        self.assertEqual((plain.doubt, plain.none), ("", False))

    def test_error_of_a_diameter(self) -> None:  # check values 7.01-02: 0.1 in and 0.2 in
        for inches, method, error in ((12.3, "taped", 0.1), (31.0, "instrument", 0.2), (20.0, "taped", 0.1)):
            self.assertAlmostEqual(diameter_error_cm(inches * 2.54, method) or 0, error * 2.54)
        self.assertIsNone(diameter_error_cm(30, "estimated"))

    def test_a_change_within_the_error_is_said_to_be_none(self) -> None:
        for now, none in ((30.3, True), (29.8, True), (30.35, True), (30.4, False)):
            self.assertEqual(growth(taken(30.0, 2022), taken(now, 2026)).none, none, now)

    def test_what_cannot_be_read_as_growth(self) -> None:
        for before, now, said in (
            (taken(30, 2022, 1.30), taken(29.4, 2026, 1.50), "two conventions"),
            (taken(30, 2022), taken(29.4, 2026, 1.9), "two heights"),
            (taken(30, 2022, method="estimated"), taken(34, 2026), "by eye"),
            (taken(30, 2022), taken(34, 2026, method="estimated"), "by eye"),
        ):
            found = growth(before, now)
            self.assertIn(said, found.doubt)
            self.assertFalse(found.none)
        with self.assertRaises(OutOfRangeError):
            growth(taken(30, 2026), taken(32, 2026))
        # 20 rings on 5 cm of radius: 10 cm of diameter in 20 years
        self.assertAlmostEqual(diameter_growth_from_rings(20, 5), 0.5)


class Space(unittest.TestCase):
    def test_the_grown_plant_against_what_stands_round_it(self) -> None:
        for thing, fits in (
            ({"kind": "wall", "distance_m": 9}, "only if small"),
            ({"kind": "wire", "distance_m": 2, "height_m": 9}, "no"),
            ({"kind": "wire", "distance_m": 2, "height_m": 29}, "yes"),
            ({"kind": "neighbour", "distance_m": 30, "spread_m": 10}, "yes"),
            ({"kind": "road", "distance_m": 2}, "yes"),  # raised to 5.2 m as it grows
            ({"kind": "sight_line", "distance_m": 2}, "yes"),
            ({"kind": "lamp", "distance_m": 8, "height_m": 8}, "only if small"),
            ({"kind": "service", "distance_m": 5}, "no"),
            ({"kind": "service", "distance_m": 10}, "yes"),
            ({"kind": "kerb", "distance_m": 1.0}, "only if small"),
            ({"kind": "soil", "volume_m3": 100}, "only if small"),
            ({"kind": "soil", "volume_m3": 60}, "no"),
        ):
            with self.subTest(thing):
                self.assertEqual(space_check((15, 25), (12, 20), [thing])[0]["fits"], fits)

    def test_a_low_plant_stays_out_of_sight_lines_and_a_middling_one_hangs_over_the_road(self) -> None:
        for grown, spread, kind, fits, said in (
            ((0.5, 0.8), (1, 1.5), "sight_line", "yes", "stays below"),
            ((3, 4), (3, 4), "sight_line", "only if small", "reaches"),
            ((6, 9), (6, 8), "road", "no", "reaches 4.0 m"),
            ((20, 25), (12, 20), "road", "yes", "raised to 5.2 m"),
        ):
            row = space_check(grown, spread, [{"kind": kind, "distance_m": 1.7}])[0]
            self.assertEqual(row["fits"], fits)
            self.assertIn(said, row["says"])

    def test_soil_follows_the_crown(self) -> None:  # 0.6 m³ for each m² of a crown of 10 m: 47.1 m³
        row = space_check((10, 10), (10, 10), [{"kind": "soil", "volume_m3": 47.2}])[0]
        self.assertEqual(row["fits"], "yes")
        self.assertIn("needs 47 to 47 m³", row["says"])

    def test_every_kind_names_what_it_lacks(self) -> None:
        for kind in near_things():
            with self.subTest(kind), self.assertRaises(InputError) as caught:
                space_check((2, 4), (2, 3), [{"kind": kind}])
            self.assertRegex(caught.exception.place, r"things\[0\]\.(distance_m|volume_m3)")
        with self.assertRaises(InputError) as caught:
            space_check((2, 4), (2, 3), [{"kind": "moat", "distance_m": 1}])
        self.assertEqual(caught.exception.place, "things[0].kind")
