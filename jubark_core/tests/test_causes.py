"""Causes, signs and what is normal as data: complete, consistent, and read as they are written."""

from __future__ import annotations

import unittest
from pathlib import Path
from xml.sax.saxutils import escape

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.plates.signs import sign_drawings
from jubark_core.records.upgrade import _SIGNS_5
from jubark_core.signs.case import cause_id, sign_id
from jubark_core.signs.exposure import exposure
from jubark_core.signs.hosts import GROUPS, chain, susceptibility
from jubark_core.signs.load import BASE, PARTS, health
from jubark_core.signs.notation import OFTEN, read_sign, read_window
from jubark_core.signs.pages import cause_page, causes_listed

FLORA = shipped_flora()
HERE = {"on": "2026-07-01", "place": {"lat": 40.5, "lon": -79.3}, "areas": ["PEN"]}
ROWS = set(range(1, 82))  # of the check table; row 82 is what is normal for the season
# A dose, an ingredient or a product has no place in what the tool prints (who may decide is said instead).
NO_INGREDIENTS = (
    "emamectin",
    "imidacloprid",
    "dinotefuran",
    "fluopyram",
    "phosph",
    "neonic",
    "btk",
    "copper",
    "mg/",
    "ml ",
)
# host, cause, how badly: + and ++ and 'no' of the trade's host lists
SUSCEPTIBILITY = (
    ("fraxinus-americana", "emerald-ash-borer", 1.0),
    ("fraxinus-excelsior", "emerald-ash-borer", 0.4),
    ("fraxinus-quadrangulata", "emerald-ash-borer", 0.08),
    ("fraxinus-mandshurica", "emerald-ash-borer", 0.02),
    ("chionanthus-virginicus", "emerald-ash-borer", 0.4),
    ("sorbus-americana", "emerald-ash-borer", 0.0),
    ("betula-pendula", "bronze-birch-borer", 1.0),
    ("betula-nigra", "bronze-birch-borer", 0.02),
    ("quercus-palustris", "oak-wilt", 1.0),
    ("quercus-alba", "oak-wilt", 0.08),
    ("quercus-robur", "oak-wilt", 0.08),
    ("tsuga-canadensis", "hemlock-woolly-adelgid", 1.0),
    ("tsuga-heterophylla", "hemlock-woolly-adelgid", 0.02),
    ("pinus-strobus", "white-pine-blister-rust", 1.0),
    ("pinus-resinosa", "white-pine-blister-rust", 0.0),
    ("pinus-strobus", "pine-wilt-nematode", 0.02),
    ("pinus-sylvestris", "pine-wilt-nematode", 1.0),
    ("ulmus-americana", "dutch-elm-disease", 1.0),
    ("ulmus-parvifolia", "dutch-elm-disease", 0.02),
    ("acer-rubrum", "spongy-moth", 0.4),
    ("liriodendron-tulipifera", "spongy-moth", 0.02),
    ("juglans-cinerea", "butternut-canker", 1.0),
    ("acer-negundo", "sooty-bark", 0.4),
    ("malus-domestica", "fire-blight", 1.0),
    ("prunus-serotina", "fire-blight", 0.0),
    ("fagus-sylvatica", "beech-leaf-disease", 0.4),
    ("quercus-rubra", "beech-leaf-disease", 0.0),
    ("rosa-carolina", "rose-rosette", 0.08),
    ("acer-platanoides", "girdling-roots", 1.0),
    ("ginkgo-biloba", "girdling-roots", 0.4),  # any plant
)


class Data(unittest.TestCase):
    def test_every_row_of_the_check_table_is_held(self) -> None:
        self.assertEqual({c.row for c in health().causes.values() if c.row}, ROWS)
        self.assertGreaterEqual(len(health().causes), 82)

    def test_every_cause_says_what_people_need(self) -> None:
        for cause in health().causes.values():
            with self.subTest(cause.id):
                self.assertTrue(cause.hosts and cause.signs and cause.next and cause.response)
                self.assertIn(cause.grade, "ABC")
                self.assertTrue(cause.source)
                self.assertIn(cause.base, BASE.values())
                if cause.lab:
                    self.assertTrue(cause.sample)
                if cause.harm in ("harmless",):
                    self.assertEqual(cause.report in ("", "where not yet present"), True)

    def test_every_host_is_a_taxon_of_the_flora_a_group_or_a_plausible_name(self) -> None:
        genera = {t for t, v in FLORA.taxa.items() if v["rank"] == "genus"}
        for cause in health().causes.values():
            bound = {h for rows in cause.signs.values() for s in rows for h in (*s.on, *s.not_on)}
            for host in (*cause.hosts, *bound, *cause.minor_on):
                with self.subTest(cause.id, host=host):
                    self.assertRegex(host, r"^[a-z]+(-[a-z]+)*$")
                    if host not in FLORA.taxa and host not in GROUPS and host.split("-")[0] in genera:
                        self.assertIn("-", host)  # a species the flora does not hold, never a misspelt genus

    def test_every_sign_is_drawn_from_the_vocabulary_and_made_by_something(self) -> None:
        known = health()
        made = {s for c in known.causes.values() for s in c.signs} | {
            s for n in known.normals for s in n.signs
        }
        self.assertLessEqual(made, set(known.signs))
        unused = (
            set(known.signs) - made - {"green_limb_drop", "notched_edge", "exit_hole_oval", "insect_seen"}
        )
        self.assertEqual(unused, set())
        for sign in known.signs.values():
            self.assertIn(sign.part, PARTS)
            self.assertTrue(sign.how and sign.mistake)
            self.assertLess(sum(sign.confused.values()), 0.3)
            self.assertLessEqual(set(sign.confused), set(known.signs))

    def test_what_the_tool_prints_names_no_ingredient(self) -> None:
        for cause in health().causes.values():
            for text in (*(a.do for a in cause.response), *cause.cautions, cause.next, cause.sample):
                self.assertFalse([w for w in NO_INGREDIENTS if w in text.lower()], text)

    def test_nothing_is_called_safe(self) -> None:
        for path in Path("jubark_core/signs").rglob("*.toml"):
            for word in ("is safe", "safe to", "edible", "no danger"):
                self.assertNotIn(word, path.read_text(encoding="utf-8").lower(), path.name)

    def test_earlier_names_of_signs_lead_to_todays(self) -> None:
        for before, now in _SIGNS_5.items():
            self.assertEqual(sign_id("sign", before), now)
        for alias, now in (
            ("holes_in_rows", "sap_wells_rows"),
            ("stem_like_post", "flare_buried"),
            ("curled_cold", "leaves_rolled"),
            ("bark_plate_dead_sunny", "bark_dead_plate"),
            ("browned_windward", "browned"),
            ("bootlaces_white_fan", "fan_under_bark"),
        ):
            self.assertEqual(sign_id("sign", alias), now)

    def test_a_cause_is_found_by_its_id_by_its_latin_name_and_by_another(self) -> None:
        for given in ("emerald-ash-borer", "Agrilus planipennis", "Emerald ash borer"):
            self.assertEqual(cause_id("agent", given), "emerald-ash-borer")
        self.assertEqual(cause_id("agent", "honey-fungus"), "armillaria")
        for bad in ("elm plague", "", None, 3):
            with self.assertRaises(InputError) as caught:
                cause_id("agent", bad)
            self.assertEqual(caught.exception.place, "agent")


class Notation(unittest.TestCase):
    def test_a_sign_is_read_as_it_is_written(self) -> None:
        sign = read_sign(
            "exit_hole_d usual 11-01..04-30 @trunk,limbs 3-4mm on:fraxinus not:fraxinus-quadrangulata again"
        )
        self.assertEqual(
            (sign.sign, sign.often, sign.window), ("exit_hole_d", OFTEN["usual"], read_window("11-01..04-30"))
        )
        self.assertEqual((sign.where, sign.size_mm), ({"trunk", "limbs"}, (3.0, 4.0)))
        self.assertEqual((sign.on, sign.not_on, sign.again), ({"fraxinus"}, {"fraxinus-quadrangulata"}, True))
        self.assertTrue(read_window("01-01..12-31").all_year)

    def test_what_is_not_understood_is_refused(self) -> None:
        for text in (
            "exit_hole_d mostly",
            "exit_hole_d usual @bole",
            "exit_hole_d usual 13-40..01-01",
            "exit_hole_d usual maybe",
            "exit_hole_d",
        ):
            with self.subTest(text), self.assertRaises(ValueError):
                read_sign(text)
        self.assertRaises(ValueError, read_window, "spring")


class Hosts(unittest.TestCase):
    def test_susceptibility_is_that_of_the_nearest_that_is_named(self) -> None:
        for taxon, cause, expected in SUSCEPTIBILITY:
            with self.subTest(taxon, cause=cause):
                self.assertEqual(susceptibility(health().causes[cause], taxon, FLORA), expected)

    def test_a_taxon_belongs_to_its_section_genus_family_and_group(self) -> None:
        self.assertEqual(
            chain("quercus-rubra", FLORA),
            ("quercus-rubra", "quercus-sect-lobatae", "quercus", "fagaceae", "broadleaves", "any"),
        )
        self.assertEqual(chain("pinus-taeda", FLORA)[-3:], ("pinaceae", "conifers", "any"))
        self.assertNotIn("broadleaves", chain("ginkgo-biloba", FLORA))
        self.assertEqual(chain("quercus-unlisted", FLORA)[0], "quercus")


class Pages(unittest.TestCase):
    def test_the_page_of_every_cause_is_whole(self) -> None:
        for cause in health().causes:
            page = cause_page({"agent": cause, **HERE}, FLORA)
            with self.subTest(cause):
                self.assertTrue(page["signs"] and page["hosts"] and page["response"])
                for friend in page["friends"]:
                    self.assertTrue(friend["how"])
        page = cause_page(
            {"agent": "beech-leaf-disease", **HERE, "counts": {"fagus-grandifolia": 12, "quercus-alba": 3}},
            FLORA,
        )
        self.assertEqual((page["plants"], page["here"], page["active"]), (12, "present", True))
        self.assertIn("beech-erineum-mite", [f["agent"] for f in page["friends"]])
        self.assertEqual(
            page["hosts"][0],
            {
                "level": "severe",
                "label": "badly hit",
                "taxa": ["fagus-grandifolia"],
                "names": ["Fagus grandifolia"],
                "plants": 12,
            },
        )

    def test_false_friends_show_from_both_sides(self) -> None:
        for cause in health().causes.values():
            for friend in cause.friends:
                if friend in health().causes:
                    back = cause_page({"agent": friend, **HERE}, FLORA)["friends"]
                    self.assertIn(cause.id, [f["agent"] for f in back])

    def test_the_list_puts_what_has_hosts_here_first(self) -> None:
        rows = causes_listed({**HERE, "counts": {"fagus-grandifolia": 12}}, FLORA)
        self.assertEqual(len(rows), len(health().causes))
        first_without = next(i for i, r in enumerate(rows) if r["plants"] == 0)
        self.assertTrue(all(r["plants"] for r in rows[:first_without]))
        self.assertFalse(any(r["plants"] for r in rows[first_without:]))

    def test_south_of_the_equator_seasons_are_turned(self) -> None:
        north = cause_page({"agent": "japanese-beetle", **HERE}, FLORA)["season"]
        south = cause_page(
            {"agent": "japanese-beetle", "on": "2026-07-01", "place": {"lat": -40.5, "lon": 145}}, FLORA
        )["season"]
        self.assertEqual((north["from"][5:7], south["from"][5:7]), ("06", "12"))


class HostExposure(unittest.TestCase):
    def test_shares_by_stems_and_by_basal_area(self) -> None:
        """By hand: 30 of 100 stems, 3 of 8 m²."""
        rows = exposure(
            {
                "plants": [
                    {"taxon": "fraxinus-americana", "stems": 30, "basal_area_m2": 3.0},
                    {"taxon": "quercus-alba", "stems": 50, "basal_area_m2": 4.0},
                    {"taxon": "ginkgo-biloba", "stems": 20, "basal_area_m2": 1.0},
                ]
            },
            FLORA,
        )
        borer = next(r for r in rows if r["agent"] == "emerald-ash-borer")
        self.assertEqual((borer["stems"], borer["stems_share"], borer["badly_share"]), (30, 0.3, 0.3))
        self.assertAlmostEqual(borer["basal_area_share"], 0.375)
        self.assertIsNone(borer["crown_area_share"])
        self.assertNotIn("sooty-bark", [r["agent"] for r in rows])

    def test_nothing_and_an_unknown_taxon(self) -> None:
        self.assertEqual(exposure({"plants": []}, FLORA), [])
        self.assertRaises(InputError, exposure, {"plants": [{"taxon": "nix", "stems": 1}]}, FLORA)


class Drawings(unittest.TestCase):
    def test_every_sign_that_can_be_shown_is_drawn_and_no_two_alike(self) -> None:
        drawn = sign_drawings()
        self.assertEqual(set(health().signs) - set(drawn), {"mines_other"})  # of no shape of its own
        bodies = {sid: svg.split("</desc>")[1] for sid, svg in drawn.items()}
        self.assertEqual(len(set(bodies.values())), len(bodies))
        for sid, svg in drawn.items():
            self.assertIn(f"<title>{escape(health().signs[sid].label)}</title>", svg)

    def test_the_two_holes_are_drawn_to_one_scale(self) -> None:
        """9 page units a millimetre: a D of 3.5 mm, a round hole of 5 mm, a ruler of ten."""
        drawn = sign_drawings()
        self.assertIn('rx="22.5"', drawn["exit_hole_round"])
        self.assertIn('d="M60.0 36.2L', drawn["exit_hole_d"])
        for sid in ("exit_hole_d", "exit_hole_round", "exit_hole_oval"):
            self.assertEqual(drawn[sid].count('data-part="mark"'), 11)
