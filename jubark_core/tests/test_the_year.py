"""The list, the year and the month sheet of the flora: what they say must be what the seasons and
descriptions say.
"""

from __future__ import annotations

import datetime
import unittest

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import Flora
from jubark_core.season.place import Place
from jubark_core.species.listing import listed
from jubark_core.species.portrait import as_page, portrait
from jubark_core.species.year import month_sheet

FLORA = shipped_flora()
HOME = Place(40.5, -79.3, 310)
SOUTH = Place(-40.5, 175.0, 100)


def row_of(taxon: str, on: datetime.date, place: Place = HOME) -> dict[str, object]:
    return next(r for r in listed(FLORA, on, place, {}) if r["taxon"] == taxon)


class TheList(unittest.TestCase):
    def test_deciduous_trees_are_bare_in_january_and_in_leaf_in_july_and_the_other_way_round_in_the_south(
        self,
    ) -> None:
        january, july = datetime.date(2026, 1, 15), datetime.date(2026, 7, 15)
        for taxon in ("acer-saccharum", "quercus-alba", "fraxinus-americana", "tilia-americana"):
            self.assertEqual(
                [("leaf" in row_of(taxon, day)["shows"]) for day in (january, july)], [False, True], taxon
            )
            self.assertEqual(
                [("leaf" in row_of(taxon, day, SOUTH)["shows"]) for day in (january, july)],
                [True, False],
                taxon,
            )
        self.assertIn("leaf", row_of("pinus-strobus", january)["shows"])  # type: ignore[arg-type]

    def test_a_taxon_native_in_an_area_is_not_introduced_there(self) -> None:
        for row in listed(FLORA, datetime.date(2026, 6, 1), HOME, {}):
            self.assertFalse(set(row["native"]) & set(row["introduced"]), row["taxon"])
            self.assertLessEqual(
                set(row["invasive"]), set(row["introduced"]) | set(row["native"]) | set(row["invasive"])
            )

    def test_regions_are_named_once_and_hold_every_code(self) -> None:
        codes = [code for region in FLORA.compiled["regions"] for code in region["codes"]]
        self.assertEqual(sorted(codes), sorted(set(codes)))
        self.assertEqual(set(codes), set(FLORA.areas))
        told = portrait(FLORA, "ailanthus-altissima")
        self.assertTrue(any("China" in where for where in told["native"]))
        self.assertTrue(told["introduced"])

    def test_each_fact_says_where_it_comes_from(self) -> None:
        said = {
            row["character"]: row
            for organ in portrait(FLORA, "fagus-grandifolia")["organs"]
            for row in organ["rows"]
        }
        self.assertEqual(
            (said["leaf.side_veins"]["source"], said["leaf.side_veins"]["said_of"]), ("memory", "")
        )
        self.assertEqual(said["leaf.arrangement"]["said_of"], "Fagus")
        hybrid = portrait(FLORA, "quercus-x-rosacea")["organs"]
        of_parents = {row["said_of"] for organ in hybrid for row in organ["rows"]}
        self.assertIn("Quercus robur and Quercus petraea", of_parents)
        for taxon in FLORA.leaves:
            self.assertTrue(portrait(FLORA, taxon)["against"], f"{taxon}: no work to read it against")

    def test_a_fact_read_from_a_work_names_it(self) -> None:
        compiled = {**FLORA.compiled, "taxa": dict(FLORA.compiled["taxa"])}
        compiled["taxa"]["fagus-grandifolia"] = {
            **compiled["taxa"]["fagus-grandifolia"],
            "sources": {"leaf.side_veins": "observed: herbarium sheet 12"},
        }
        rows = [
            r for organ in portrait(Flora(compiled), "fagus-grandifolia")["organs"] for r in organ["rows"]
        ]
        [veins] = [r for r in rows if r["character"] == "leaf.side_veins"]
        self.assertEqual(veins["source"], "observed: herbarium sheet 12")

    def test_poison_is_told_by_level_part_and_whom_also_of_what_is_taken_for_it(self) -> None:
        moonseed = "Deadly poison for people: all parts, the fruit above all."
        double = f"Taken for it: Menispermum canadense (common moonseed). {moonseed}"
        for taxon, harm in {
            "taxus-baccata": [
                "Deadly poison for people, horses, cattle, sheep and dogs: "
                "leaves, bark and the seed inside the red flesh."
            ],
            "menispermum-canadense": [moonseed],
            "vitis-riparia": [double],
            "betula-nigra": [],
        }.items():
            with self.subTest(taxon):
                self.assertEqual(portrait(FLORA, taxon)["harm"], harm)
        self.assertIn(f"harm: {double}", as_page(FLORA, "vitis-riparia"))


class TheMonth(unittest.TestCase):
    counts = {"acer-rubrum": 8, "hamamelis-virginiana": 2, "pinus-strobus": 3, "quercus": 4}

    def sheet(self, month: int) -> dict[str, dict[str, object]]:
        return {str(r["taxon"]): r for r in month_sheet(FLORA, HOME, self.counts, 2026, month)}

    def test_a_row_for_each_described_taxon_and_none_for_a_genus(self) -> None:
        self.assertEqual(set(self.sheet(6)), {"acer-rubrum", "hamamelis-virginiana", "pinus-strobus"})
        self.assertEqual(self.sheet(6)["acer-rubrum"]["plants"], 8)

    def test_red_maple_flowers_before_the_leaves_and_witch_hazel_when_they_fall(
        self,
    ) -> None:  # general botanical knowledge
        months = {
            taxon: [
                m
                for m in range(1, 13)
                if any(words.startswith("flowers") for words in self.sheet(m)[taxon]["shows"])
            ]  # type: ignore[attr-defined]
            for taxon in ("acer-rubrum", "hamamelis-virginiana")
        }
        self.assertTrue(set(months["acer-rubrum"]) <= {3, 4} and months["acer-rubrum"])
        self.assertTrue(
            set(months["hamamelis-virginiana"]) <= {9, 10, 11, 12} and months["hamamelis-virginiana"]
        )

    def test_an_evergreen_is_never_bare(self) -> None:
        for month in range(1, 13):
            shows = self.sheet(month)["pinus-strobus"]["shows"]
            self.assertIn("evergreen", shows)  # type: ignore[arg-type]
            self.assertFalse(any("bare" in words for words in shows))  # type: ignore[attr-defined]

    def test_in_winter_nothing_is_told_by_what_is_not_there(self) -> None:
        leafy = {
            c["label"].lower()
            for c in FLORA.characters.values()
            if c["organ"] in ("leaf", "flower") and "leaf_on" in c.get("visible", ())
        }
        for told in self.sheet(1)["acer-rubrum"]["separated"]:  # type: ignore[attr-defined]
            self.assertFalse({words.split(":")[0] for words in told["by"]} & leafy)

    def test_a_month_that_is_none_is_refused(self) -> None:
        for month in (0, 13):
            with self.assertRaises(InputError) as caught:
                month_sheet(FLORA, HOME, self.counts, 2026, month)
            self.assertEqual(caught.exception.place, "month")
