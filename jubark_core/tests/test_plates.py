"""What a plate shows is what the description says: counted and measured in the SVG itself."""

from __future__ import annotations

import datetime
import math
import re
import unittest
import xml.etree.ElementTree as ET
from statistics import NormalDist

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.views import shows
from jubark_core.plates.blade import Blade, outline, teeth
from jubark_core.plates.draw import PARTS, draw
from jubark_core.plates.leaf import blade_of
from jubark_core.plates.specimen import Specimen
from jubark_core.plates.states import state_drawing, state_drawings
from jubark_core.plates.tiles import UNDRAWN

FLORA = shipped_flora()
JULY, JANUARY, OCTOBER = (datetime.date(2026, m, d) for m, d in ((7, 1), (1, 15), (10, 20)))
SVG = "{http://www.w3.org/2000/svg}"


def parts(svg: str, name: str) -> int:
    """How often a part is drawn."""
    return sum(int(e.get("data-count", 1)) for e in ET.fromstring(svg).iter() if e.get("data-part") == name)


class Plates(unittest.TestCase):
    def test_every_taxon_has_every_plate_small_and_told_in_words(self) -> None:
        for taxon in FLORA.leaves:
            for part in PARTS:
                svg = draw(FLORA, taxon, part, JULY)
                root = ET.fromstring(svg)
                self.assertTrue(root.findtext(f"{SVG}title"), (taxon, part))
                self.assertTrue(root.findtext(f"{SVG}desc"), (taxon, part))
                self.assertNotIn("nan", svg)
                if part == "leaf":
                    self.assertLess(len(svg), 26_000, taxon)

    def test_no_gradient_filter_text_or_script_is_drawn(self) -> None:
        for taxon in ("acer-rubrum", "platanus-occidentalis", "thuja-occidentalis"):
            for part in PARTS:
                tags = {e.tag.removeprefix(SVG) for e in ET.fromstring(draw(FLORA, taxon, part, JULY)).iter()}
                self.assertLessEqual(
                    tags, {"svg", "title", "desc", "path", "ellipse", "g", "use", "clipPath", "rect"}
                )

    def test_side_veins_in_the_taxon_s_own_number(self) -> None:
        for taxon in ("fagus-grandifolia", "fagus-sylvatica", "ulmus-americana", "betula-papyrifera"):
            low, high = (FLORA.taxa[taxon]["states"]["leaf.side_veins"][0][k] for k in ("low", "high"))
            a_side = parts(draw(FLORA, taxon, "leaf", JULY), "side-vein") / 2
            self.assertTrue(low <= a_side <= high, (taxon, a_side))

    def test_leaflets_needles_and_wings_in_their_number(self) -> None:
        for taxon, part, name, expected in (
            ("fraxinus-pennsylvanica", "leaf", "leaflet", {5, 7, 9}),
            ("aesculus-hippocastanum", "leaf", "leaflet", {7}),
            ("toxicodendron-radicans", "leaf", "leaflet", {3}),
            ("parthenocissus-quinquefolia", "leaf", "leaflet", {5}),
            ("pinus-strobus", "leaf", "needle", {5}),
            ("pinus-sylvestris", "leaf", "needle", {2}),
            ("acer-rubrum", "fruit", "wing", {2}),
            ("juglans-nigra", "twig", "pith-wall", {7}),
            ("cornus-florida", "flower", "petal", {4}),
        ):
            self.assertIn(parts(draw(FLORA, taxon, part, JULY), name), expected, taxon)

    def test_ratio_and_widest_point_are_those_of_the_numbers(self) -> None:
        for taxon, above in (
            ("magnolia-x-soulangeana", True),
            ("celtis-occidentalis", False),
            ("quercus-phellos", None),
        ):
            blade = blade_of(Specimen(FLORA, taxon))
            edge = outline(Blade(**{**blade.__dict__, "margin": "entire", "unequal": False, "base": "wedge"}))
            xs, ys = [x for x, _ in edge], [y for _, y in edge]
            self.assertAlmostEqual(
                (max(xs) - min(xs)) / (max(ys) - min(ys)), blade.width / blade.length, delta=0.06
            )
            at = -max(edge)[1] / blade.length
            if above is not None:
                self.assertEqual(at > 0.5, above, taxon)

    def test_teeth_stand_at_the_veins_and_finer_ones_between(self) -> None:
        plain = Blade(90, 50, side_veins=10)
        self.assertEqual(teeth(Blade(**{**plain.__dict__, "margin": "coarse_teeth"})), 10)
        self.assertEqual(teeth(Blade(**{**plain.__dict__, "margin": "fine_teeth"})), 30)
        smooth, coarse = (
            outline(Blade(**{**plain.__dict__, "margin": m})) for m in ("entire", "coarse_teeth")
        )
        turns = [
            sum(1 for a, b, c in zip(e, e[1:], e[2:], strict=False) if (b[0] - a[0]) * (c[0] - b[0]) < 0)
            for e in (smooth, coarse)
        ]
        self.assertLess(turns[0], 4)
        self.assertGreaterEqual(turns[1], 16)

    def test_barks_of_different_kinds_differ_and_repeat(self) -> None:
        seen = {}
        for taxon, name in (
            ("fraxinus-americana", "ridge"),
            ("cornus-florida", "block"),
            ("carya-ovata", "strip"),
            ("celtis-occidentalis", "wart"),
            ("platanus-occidentalis", "patch"),
        ):
            svg = draw(FLORA, taxon, "bark", JULY)
            self.assertGreater(parts(svg, name), 5, taxon)
            self.assertEqual(svg, draw(FLORA, taxon, "bark", JULY))
            seen[taxon] = svg
        self.assertEqual(len(set(seen.values())), len(seen))
        self.assertNotEqual(
            draw(FLORA, "quercus-palustris", "bark", JULY, stage="young"),
            draw(FLORA, "ulmus-americana", "bark", JULY, stage="young"),
        )

    def test_the_season_changes_the_plate(self) -> None:
        colours = [
            re.findall(r'data-part="blade"[^>]*fill="(#\w+)"', draw(FLORA, "acer-rubrum", "leaf", on))[0]
            for on in (JULY, OCTOBER)
        ]
        self.assertNotEqual(*colours)
        self.assertEqual(parts(draw(FLORA, "acer-rubrum", "habit", JANUARY), "leaves"), 0)
        self.assertEqual(parts(draw(FLORA, "pinus-strobus", "habit", JANUARY), "leaves"), 1)

    def test_an_individual_differs_from_the_typical_plant(self) -> None:
        typical = draw(FLORA, "fagus-grandifolia", "leaf", JULY)
        large = draw(FLORA, "fagus-grandifolia", "leaf", JULY, quantile=lambda _: 0.95)
        self.assertGreater(parts(large, "side-vein"), parts(typical, "side-vein"))

    def test_tiles_part_the_states_they_stand_for(self) -> None:
        for cid in (
            "leaf.shape",
            "leaf.margin",
            "leaf.base",
            "leaf.arrangement",
            "bud.scales",
            "twig.leaf_scar",
            "twig.bundle_scars",
            "bark.texture",
            "fruit.kind",
        ):
            drawn = [d for s in FLORA.characters[cid]["states"] if (d := state_drawing(FLORA, cid, s))]
            bare = {re.sub(r"<title>.*?</desc>|aria-label=\"[^\"]*\"", "", d) for d in drawn}
            self.assertGreaterEqual(len(bare), len(drawn) - 3, cid)
        self.assertIsNone(state_drawing(FLORA, "leaf.smell", "almond"))

    def test_unknown_words_are_refused_by_name(self) -> None:
        for wrong in (
            lambda: draw(FLORA, "acer-nowhere", "leaf", JULY),
            lambda: draw(FLORA, "acer-rubrum", "root", JULY),
            lambda: state_drawing(FLORA, "leaf.shape", "cubic"),
        ):
            self.assertRaises(InputError, wrong)


class Tiles(unittest.TestCase):
    def test_every_state_is_drawn_but_those_of_nose_and_finger(self) -> None:
        drawn = state_drawings(FLORA)
        for cid, c in FLORA.characters.items():
            if cid not in UNDRAWN and "states" in c:
                missing = set(c["states"]) - set(drawn.get(cid, ())) - set(c.get("retired", ()))
                self.assertLessEqual(missing, {"none", "not_seen"} if cid in drawn else set(), cid)
        self.assertFalse(set(UNDRAWN) & set(drawn))

    def test_no_two_states_of_a_character_look_the_same(self) -> None:
        for cid, states in state_drawings(FLORA).items():
            bodies = [svg.split("</desc>")[1] for svg in states.values()]
            same = [s for s, body in zip(states, bodies, strict=True) if bodies.count(body) > 1]
            with self.subTest(cid):
                self.assertEqual(same, [])


class Features(unittest.TestCase):
    """What the description says of stalk, twig and flowers stands in the plate, and nowhere else."""

    def test_glands_and_flat_stalks_where_the_description_has_them(self) -> None:
        for taxon, part in (("prunus-serotina", "stalk-gland"), ("populus-tremuloides", "stalk-flat")):
            self.assertIn(part.split("-")[1][:4], str(FLORA.taxa[taxon]["states"]["leaf.petiole"]))
            self.assertGreater(parts(draw(FLORA, taxon, "leaf", JULY), part), 0)
        self.assertEqual(parts(draw(FLORA, "ulmus-americana", "leaf", JULY), "stalk-gland"), 0)

    def test_bloom_under_the_spray_and_rolled_edges_where_the_description_has_them(self) -> None:
        for taxon in FLORA.leaves:
            states = FLORA.taxa[taxon]["states"]
            bloom = (states.get("spray.underside_bloom") or [{}])[0].get("weights", {"none": 1})
            scaled = Specimen(FLORA, taxon).one("leaf.type") == "scale"
            wanted = scaled and max(bloom, key=lambda s: bloom[s]) != "none"
            self.assertEqual(parts(draw(FLORA, taxon, "leaf", JULY), "bloom-pattern") == 1, wanted, taxon)
        rolled = [
            t for t in FLORA.leaves if Specimen(FLORA, t).many("leaf.margin", 0.3)[:1] == ["rolled_under"]
        ]
        for taxon in rolled:
            self.assertEqual(parts(draw(FLORA, taxon, "leaf", JULY), "rolled-edge"), 2, taxon)

    def test_spur_shoots_exactly_where_the_description_has_them(self) -> None:
        for taxon in FLORA.leaves:
            weights = (FLORA.taxa[taxon]["states"].get("twig.spur_shoots") or [{}])[0].get("weights", {})
            wanted = bool(weights) and max(weights, key=lambda s: weights[s]) == "yes"
            self.assertEqual(parts(draw(FLORA, taxon, "twig", JANUARY), "spur-shoot") == 1, wanted, taxon)

    def test_flowers_that_stand_in_clusters_show_the_cluster(self) -> None:
        self.assertEqual(parts(draw(FLORA, "prunus-virginiana", "flower", JULY), "cluster"), 1)
        self.assertEqual(parts(draw(FLORA, "liriodendron-tulipifera", "flower", JULY), "cluster"), 0)

    def test_a_grown_crown_bears_its_branches_at_the_angle_of_its_habit(self) -> None:
        def rises(taxon: str) -> float:
            """Mean rise of the limbs' ends over their feet, for their reach; bare in January."""
            found = []
            for e in ET.fromstring(draw(FLORA, taxon, "habit", JANUARY)).iter():
                if e.get("data-part") == "branch":
                    points = [tuple(map(float, p.split())) for p in (e.get("d") or "").lstrip("M").split("L")]
                    (x0, y0), (x1, y1) = points[0], points[-1]
                    if abs(x1 - x0) > 10:
                        found.append((y0 - y1) / abs(x1 - x0))
            return math.fsum(found) / len(found)

        self.assertGreater(rises("liriodendron-tulipifera"), rises("cornus-florida"))
        self.assertLess(rises("salix-x-sepulcralis"), rises("cornus-florida"))


class Size(unittest.TestCase):
    def test_small_and_large_leaf_stand_one_in_ten_from_the_ends_of_the_range(self) -> None:
        flora, taxon = FLORA, "tilia-americana"
        svg = draw(flora, taxon, "leaf", JULY)
        tall = {name: height(svg, name) for name in ("range-small", "blade", "range-large")}
        self.assertLess(tall["range-small"], tall["blade"])
        self.assertLess(tall["blade"], tall["range-large"])
        _, sd = shows(flora, "mature").spread(taxon, "leaf.length_cm") or (0.0, 0.0)
        wanted = math.exp(2 * NormalDist().inv_cdf(0.9) * sd)
        self.assertAlmostEqual(tall["range-large"] / tall["range-small"], wanted, delta=0.03 * wanted)

    def test_the_leaf_lies_on_a_hand_in_one_scale_with_it(self) -> None:
        for taxon in ("buxus-sempervirens", "catalpa-speciosa"):
            root = ET.fromstring(draw(FLORA, taxon, "leaf", JULY))
            leaf = next(e for e in root.iter(f"{SVG}use"))
            self.assertEqual(leaf.get("href"), "#leaf")
            self.assertEqual(parts(ET.tostring(root, encoding="unicode"), "hand"), 6)

    def test_leaves_on_the_twig_in_summer_none_in_winter(self) -> None:
        self.assertEqual(parts(draw(FLORA, "cornus-florida", "twig", JULY), "leaf"), 8)  # four pairs
        self.assertEqual(parts(draw(FLORA, "cornus-florida", "twig", JANUARY), "leaf"), 0)
        self.assertGreater(parts(draw(FLORA, "ilex-opaca", "twig", JANUARY), "leaf"), 0)


def height(svg: str, part: str) -> float:
    """How tall the first outline of a part is on the page."""
    d = next(e.get("d", "") for e in ET.fromstring(svg).iter() if e.get("data-part") == part)
    ys = [float(y) for y in re.findall(r"[ML]-?[\d.]+ (-?[\d.]+)", d)]
    return max(ys) - min(ys)
