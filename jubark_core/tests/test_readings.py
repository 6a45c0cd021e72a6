"""Readings with certainty, one truth behind several, silence and shared weights: worked by hand, and
properties.
"""

from __future__ import annotations

import math
import random
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import Flora
from jubark_core.flora.rows import shrunk
from jubark_core.flora.shows import full_weights
from jubark_core.flora.views import shows
from jubark_core.naming.case import read_case
from jubark_core.naming.engine import RunningCase
from jubark_core.naming.reading import misreading
from jubark_core.naming.samples import log_counts, log_measures, measures
from jubark_core.naming.weigh import Weighed, weigh
from jubark_core.tests.profiles import examples
from jubark_core.tests.small_flora import character, small_flora
from jubark_core.tests.test_naming_by_hand import without_floor

FLORA = shipped_flora()
PEN = {"lat": 40.5, "lon": -79.3, "elevation_m": 310, "areas": ["PEN"]}


def weighed(flora: Flora, *looks: dict[str, Any], **more: Any) -> Weighed:
    case = {"on": "2026-07-01", "prior": "flat", "observations": list(looks), **more}
    return weigh(read_case(case, flora), flora)


def chance(flora: Flora, taxon: str, *looks: dict[str, Any], **more: Any) -> float:
    """P(the looks | taxon) of looks that are one item."""
    [logs] = weighed(flora, *looks, **more).logs.values()
    return math.exp(logs[taxon])


class Misreadings(unittest.TestCase):
    """By hand from the formula of docs/naming.md, K = 4 states."""

    c = character(
        "one",
        states=["round", "oval", "egg", "fan"],
        striking=["fan"],
        confusions={"oval": {"egg": 0.2, "round": 0.1}},
    )

    def test_by_hand(self) -> None:
        # sure: slip 0.02 to each of three others 0.02/3, to the striking one a tenth; confusions times 0.3
        plain, fan = 0.02 / 3, 0.002 / 3
        slips = 2 * plain + fan  # out of `oval`: to round and egg, and to fan
        for reported, expected in (
            ("oval", (1 - slips) * (1 - 0.3 * 0.3)),
            ("egg", (1 - slips) * 0.3 * 0.2 + plain),
            ("round", (1 - slips) * 0.3 * 0.1 + plain),
            ("fan", fan),
        ):
            self.assertAlmostEqual(misreading(self.c, "oval", reported, 0.02, 0.3), expected, places=12)

    def test_confusions_take_at_most_half_however_unsure(self) -> None:
        # factor 2 would take 0.6 of `oval`; half is the most, so 0.5/0.3 of each
        self.assertAlmostEqual(misreading(self.c, "oval", "egg", 0.0, 2.0), 0.2 * 0.5 / 0.3, places=12)
        self.assertAlmostEqual(misreading(self.c, "oval", "oval", 0.0, 2.0), 0.5, places=12)

    @examples(100)
    @given(st.floats(0, 0.5), st.floats(0, 20), st.floats(0, 0.9))
    def test_every_state_is_read_as_something(self, slip: float, confused: float, extra: float) -> None:
        for cid in ("leaf.arrangement", "habit.form", "twig.corky_wings", "fruit.kind"):
            c = FLORA.characters[cid]
            for true in c["states"]:
                read = [misreading(c, true, r, slip, confused, extra) for r in c["states"]]
                self.assertAlmostEqual(math.fsum(read), 1, places=12)
                self.assertGreaterEqual(min(read), 0)

    def test_a_striking_state_is_not_invented(self) -> None:
        butternut = {"character": "twig.leaf_scar_fringe", "state": "yes", "certainty": "likely"}
        w = weigh(read_case({**PEN, "on": "2026-01-20", "observations": [butternut]}, FLORA), FLORA)
        self.assertGreater(w.bits(0, "juglans-cinerea", "juglans-nigra"), 4)


class NamedWeights(unittest.TestCase):
    def test_a_long_list_of_states_does_not_eat_into_always(self) -> None:
        for number in (2, 5, 23):
            c = {"kind": "one", "states": [f"s{i}" for i in range(number)]}
            full = full_weights(c, {"s0": 0.97})
            self.assertAlmostEqual(full["s0"], 0.99)
            self.assertAlmostEqual(math.fsum(full.values()), 1)

    def test_what_the_words_leave_is_shared_by_what_they_do_not_name(self) -> None:
        c = {"kind": "one", "states": list("abcd")}
        for named, unnamed in (
            ({"a": 0.80}, 0.2),
            ({"a": 0.80, "b": 0.15}, 0.05),
            ({"a": 0.15}, 0.2),
            ({"a": 0.80, "b": 0.80}, 0.01),
        ):
            full = full_weights(c, named)
            self.assertAlmostEqual(math.fsum(full[s] for s in "abcd" if s not in named), unnamed)
            self.assertAlmostEqual(math.fsum(full.values()), 1)
        self.assertEqual(full_weights({"kind": "one", "states": ["a"]}, {"a": 0.8}), {"a": 1.0})


class OnePlantOneTruth(unittest.TestCase):
    def setUp(self) -> None:
        without_floor(self)
        self.flora = small_flora(
            {
                "leaf.k": character("one", states=["x", "y"]),
                "leaf.m": character("many", states=["p", "q", "r"]),
            },
            {
                "a": {"leaf.k": {"x": 0.7, "y": 0.3}, "leaf.m": {"p": 0.8, "q": 0.1, "r": 0.2}},
                "b": {"leaf.k": {"x": 0.4, "y": 0.6}, "leaf.m": {"p": 0.1, "q": 0.7, "r": 0.2}},
            },
        )

    def test_readings_of_several_people_and_dates_are_readings_of_one_state(self) -> None:
        looks = [
            {"character": "leaf.k", "state": "x", "slip": 0.1, "observer": "m"},
            {"character": "leaf.k", "state": "x", "slip": 0.2, "observer": "n", "on": "2026-08-01"},
            {"character": "leaf.k", "state": "y", "slip": 0.1, "observer": "o", "on": "2025-07-01"},
        ]
        # by hand: 0.9 of one truth, 0.1 of three
        one = 0.7 * 0.9 * 0.8 * 0.1 + 0.3 * 0.1 * 0.2 * 0.9
        apart = (0.7 * 0.9 + 0.3 * 0.1) * (0.7 * 0.8 + 0.3 * 0.2) * (0.7 * 0.1 + 0.3 * 0.9)
        self.assertAlmostEqual(chance(self.flora, "a", *looks), 0.9 * one + 0.1 * apart, places=12)

    def test_yearly_looks_of_one_observer_at_one_plant_count_once(self) -> None:
        yearly = [
            {"character": "leaf.k", "state": "x", "on": f"{2015 + i}-07-01", "observer": "m"}
            for i in range(12)
        ]
        once = weighed(self.flora, yearly[0]).probability
        self.assertEqual(weighed(self.flora, *yearly).probability, once)

    def test_of_repeats_the_surest_counts_in_any_order(self) -> None:
        sure, unsure = ({"character": "leaf.k", "state": "x", "certainty": c} for c in ("sure", "unsure"))
        alone = weighed(self.flora, sure).probability
        self.assertEqual(weighed(self.flora, sure, unsure).probability, alone)
        self.assertEqual(weighed(self.flora, unsure, sure).probability, alone)

    def test_many_states_over_two_lookings(self) -> None:
        looks = [
            {"character": "leaf.m", "states": ["p"], "slip": 0.06, "observer": "m"},
            {"character": "leaf.m", "states": ["p", "r"], "absent": ["q"], "slip": 0.06, "observer": "n"},
        ]
        stray, rate = 0.06 / 3, 0.5
        p = 0.8 * rate * rate + 0.2 * stray * stray
        q = 0.1 * (1 - rate) * 0.06 + 0.9 * (1 - stray) * (1 - 0.06)
        r = 0.2 * (1 - rate) * rate + 0.8 * (1 - stray) * stray
        self.assertAlmostEqual(chance(self.flora, "a", *looks), p * q * r, places=12)

    def test_k_of_n_takes_single_readings_in(self) -> None:
        counted = {"character": "leaf.k", "state": "x", "k": 3, "n": 4, "slip": 0}
        single = {"character": "leaf.k", "state": "y", "slip": 0}
        pooled = {"character": "leaf.k", "state": "x", "k": 3, "n": 5, "slip": 0}
        self.assertAlmostEqual(
            chance(self.flora, "a", counted, single), chance(self.flora, "a", pooled), places=12
        )

    def test_an_observer_who_errs_more_says_less(self) -> None:
        look = {"character": "leaf.k", "state": "x", "certainty": "likely", "observer": "m"}
        gaps = [
            weighed(self.flora, look, observers={"m": factor}).bits(0, "a", "b") for factor in (0.5, 1, 3)
        ]
        self.assertEqual(gaps, sorted(gaps, reverse=True))
        by_hand = math.log2((0.7 * 0.82 + 0.3 * 0.18) / (0.4 * 0.82 + 0.6 * 0.18))
        self.assertAlmostEqual(gaps[2], by_hand, places=9)


class SureAndUnsureValues(unittest.TestCase):
    def test_a_misread_count_by_hand(self) -> None:
        def cell(v: float) -> float:
            return 0.5 * (math.erf((v + 0.5 - 7) / math.sqrt(2)) - math.erf((v - 0.5 - 7) / math.sqrt(2)))

        expected = 0.75 * cell(8) + 0.45 * 0.25 * (cell(7) + cell(9)) + 0.1 * 0.25 / 61
        self.assertAlmostEqual(log_counts([(8, 0.25)], 7, 1.0, 0.0), math.log(expected), places=12)

    def test_a_misread_length_widens_the_leaf_not_the_plant(self) -> None:
        self.assertAlmostEqual(
            measures([2.0], 0.0, True, 0.25)(1.9, 0.2),
            log_measures([2.0], 1.9, math.sqrt(0.04 + 0.25 * 0.01), 0.0, True),
            places=12,
        )

    def test_sure_says_more_than_unsure(self) -> None:
        for cid, values in (("leaf.side_veins", [7, 6, 7]), ("leaf.petiole_cm", [0.8, 0.9])):
            said = [
                abs(
                    weigh(
                        read_case(
                            {
                                **PEN,
                                "on": "2026-07-10",
                                "observations": [{"character": cid, "values": values, "certainty": c}],
                            },
                            FLORA,
                        ),
                        FLORA,
                    ).bits(0, "fagus-sylvatica", "fagus-grandifolia")
                )
                for c in ("sure", "likely", "unsure")
            ]
            self.assertEqual(said, sorted(said, reverse=True), cid)

    def test_ten_dates_are_one_plant(self) -> None:
        together = {"character": "leaf.side_veins", "values": [7] * 10}
        dates = [
            {"character": "leaf.side_veins", "values": [7], "on": f"{2016 + i}-07-10", "observer": f"m{i}"}
            for i in range(10)
        ]
        one, ten = (
            weigh(read_case({**PEN, "on": "2026-07-10", "observations": looks}, FLORA), FLORA).probability
            for looks in ([together], dates)
        )
        for taxon, p in one.items():
            self.assertAlmostEqual(p, ten[taxon], places=9)


class Silence(unittest.TestCase):
    def flora(self, **more: Any) -> Flora:
        found = small_flora(
            {"leaf.k": character("one", states=["usual", "odd"], **more)},
            {"told": {"leaf.k": {"usual": 0.0, "odd": 1.0}}, "kin": {}, "far": {}},
        )
        for taxon, genus in (("told", "g"), ("kin", "g"), ("far", "h")):
            found.taxa[taxon]["parent"] = genus
        found.taxa |= {g: {"name": g, "rank": "genus", "parent": None, "missing": 3} for g in ("g", "h")}
        return Flora({**found.compiled, "taxa": found.taxa})

    def rows(self, flora: Flora) -> dict[str, float]:
        rows = shows(flora, "mature").rows("leaf.k", "summer")
        return {h: rows.rows[i].weights[1] for h, i in zip(flora.hypotheses, rows.of, strict=True)}

    def test_the_silent_have_the_ordinary_state_and_a_fifth_of_what_is_told(self) -> None:
        odd = self.rows(self.flora(ordinary="usual"))
        self.assertAlmostEqual(odd["kin"], 0.2)
        self.assertAlmostEqual(odd["far"], 0.2)
        self.assertAlmostEqual(odd["told"], 1.0)

    def test_one_relative_never_lends_its_certainty(self) -> None:
        # nobody but one taxon tells: P0 is its row, so look at a flora in which another family tells
        # otherwise
        flora = self.flora()
        flora.taxa["far"]["states"] = {"leaf.k": [{"weights": {"usual": 1.0, "odd": 0.0}}]}
        flora = Flora({**flora.compiled, "taxa": flora.taxa})
        odd = self.rows(flora)
        # P0 = (odd 0.5); the family is not known: F = P0; G = (1·1 + 0.3·0.5) / (1 + 0.3)
        self.assertAlmostEqual(odd["kin"], 1.15 / 1.3)
        self.assertAlmostEqual(odd["g-unlisted"], 1.15 / 1.3)
        self.assertAlmostEqual(odd["h-unlisted"], 0.15 / 1.3)

    @examples(100)
    @given(st.lists(st.floats(0, 1), min_size=1, max_size=6), st.floats(0, 1))
    def test_shrinking_stays_between_relatives_and_the_wider_circle(
        self, odd: list[float], p0: float
    ) -> None:
        found = shrunk([(1 - p, p) for p in odd], (1 - p0, p0))
        self.assertAlmostEqual(math.fsum(found), 1)
        self.assertTrue(min([*odd, p0]) - 1e-9 <= found[1] <= max([*odd, p0]) + 1e-9)

    def test_an_unlisted_species_can_win(self) -> None:
        """A sugar pine in California: five needles, and cones longer than any listed pine's."""
        looks = [
            {"character": "needle.per_bundle", "values": [5, 5, 5], "certainty": "sure"},
            {"character": "cone.length_cm", "values": [38, 42], "certainty": "sure"},
        ]
        flora = without("pinus-lambertiana")
        case = {"on": "2026-10-01", "areas": ["CAL"], "setting": "dry_slope", "observations": looks}
        self.assertEqual(weigh(read_case(case, flora), flora).ranked[0], "pinus-unlisted")


def without(taxon: str) -> Flora:
    """The shipped flora without a taxon, should it hold it."""
    return Flora({**FLORA.compiled, "taxa": {t: node for t, node in FLORA.taxa.items() if t != taxon}})


class SharedWeights(unittest.TestCase):
    def flora(self, correlation: float) -> Flora:
        characters = {f"leaf.c{i}": character("one", states=["x", "y"]) for i in range(4)}
        states = {
            "a": {cid: {"x": 0.8, "y": 0.2} for cid in characters},
            "b": {cid: {"x": 0.2, "y": 0.8} for cid in characters},
        }
        for t in states:
            states[t]["leaf.c3"] = {"x": 0.5, "y": 0.5}
        return small_flora(characters, states, group_correlations={"g": correlation})

    def looks(self, *numbers: int) -> list[dict[str, Any]]:
        return [{"character": f"leaf.c{i}", "state": "x", "slip": 0} for i in numbers]

    def test_equal_looks_come_to_n_over_one_plus_the_others(self) -> None:
        for r in (0.0, 0.3, 1.0):
            flora = self.flora(r)
            self.assertEqual(weighed(flora, *self.looks(0)).weight, {0: 1.0})
            for weight in weighed(flora, *self.looks(0, 1, 2)).weight.values():
                self.assertAlmostEqual(weight, 1 / (1 + 2 * r))

    def test_a_look_that_says_the_same_of_all_changes_nothing(self) -> None:
        flora = self.flora(0.8)
        plain, with_empty = (weighed(flora, *self.looks(*n)).probability for n in ((0, 1), (0, 3, 1)))
        for taxon, p in plain.items():
            self.assertAlmostEqual(p, with_empty[taxon], places=12)

    def test_five_unsure_leaf_looks_never_outvote_one_sure_fork(self) -> None:
        fork = {"character": "leaf.arrangement", "state": "opposite", "certainty": "sure"}
        against = [
            {"character": cid, **said, "certainty": "unsure"}
            for cid, said in (
                ("leaf.lobes", {"state": "pinnate"}),
                ("leaf.lobe_tip", {"state": "bristle"}),
                ("leaf.venation", {"state": "pinnate"}),
                ("leaf.gloss", {"state": "glossy"}),
                ("leaf.base", {"states": ["straight"]}),
            )
        ]
        case = {**PEN, "on": "2026-07-10", "setting": "woodland", "observations": [fork, *against]}
        w = weigh(read_case(case, FLORA), FLORA)
        paired = math.fsum(
            p
            for t, p in w.probability.items()
            if t in FLORA.taxa
            and (shows(FLORA, "mature").weights(t, "leaf.arrangement", "summer") or {}).get("opposite", 0)
            > 0.5
        )
        self.assertGreater(paired, 0.5)


class OrderNeverMatters(unittest.TestCase):
    """Any order, repeats of differing certainty, several observers, dates and specimens included."""

    POOL = (
        {"character": "leaf.arrangement", "state": "opposite", "certainty": "sure", "observer": "m"},
        {"character": "leaf.arrangement", "state": "opposite", "certainty": "unsure", "observer": "m"},
        {"character": "leaf.arrangement", "state": "alternate", "certainty": "unsure", "observer": "n"},
        {"character": "leaf.side_veins", "values": [9, 10], "certainty": "sure"},
        {"character": "leaf.side_veins", "values": [11], "certainty": "unsure", "on": "2025-07-01"},
        {"character": "bark.texture", "states": ["smooth"], "certainty": "unsure", "observer": "m"},
        {"character": "bark.texture", "states": ["smooth"], "certainty": "sure", "observer": "m"},
        {"character": "bark.texture", "states": ["scaly"], "absent": ["papery_peel"], "observer": "n"},
        {"character": "leaf.lobe_tip", "applies": False, "observer": "m"},
        {"character": "leaf.lobes", "state": "none", "observer": "m", "certainty": "unsure"},
        {"character": "fruit.kind", "none": True, "certainty": "unsure"},
        {"character": "fruit.colour", "none": True, "certainty": "sure"},
        {"character": "flower.form", "state": "star", "on": "2026-05-01"},
        {"character": "flower.colour", "states": ["white"], "on": "2026-05-01"},
        {"character": "flower.form", "state": "bell", "on": "2026-05-01", "specimen": "b"},
        {"character": "leaf.base", "state": "wedge", "k": 3, "n": 8},
        {"character": "leaf.base", "states": ["rounded"], "observer": "n"},
    )

    @examples(60)
    @given(st.lists(st.sampled_from(POOL), min_size=2, max_size=9), st.randoms(use_true_random=False))
    def test_any_order_gives_the_same(self, looks: list[dict[str, Any]], rng: random.Random) -> None:
        shuffled = list(looks)
        rng.shuffle(shuffled)
        one, two = (
            weigh(read_case({**PEN, "on": "2026-07-10", "observations": told}, FLORA), FLORA).probability
            for told in (looks, shuffled)
        )
        for taxon, p in one.items():
            self.assertAlmostEqual(p, two[taxon], places=9)

    @examples(20)
    @given(st.lists(st.sampled_from(POOL), min_size=1, max_size=6))
    def test_a_running_case_is_the_case_as_a_whole(self, looks: list[dict[str, Any]]) -> None:
        running = RunningCase(FLORA)
        for n in range(len(looks) + 1):
            answer = running.name({**PEN, "on": "2026-07-10", "observations": looks[:n]})
        whole = weigh(read_case({**PEN, "on": "2026-07-10", "observations": looks}, FLORA), FLORA)
        self.assertEqual(answer["candidates"][0]["probability"], whole.probability[whole.ranked[0]])
