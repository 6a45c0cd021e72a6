"""The case of plant health: every bad input names its place, and no case breaks the reader."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.signs.case import CASE_KEYS, SIGN_KEYS, read_health_case
from jubark_core.signs.diagnose import diagnose
from jubark_core.signs.simulator import HOSTS, trial
from jubark_core.tests.door_requests import AILING
from jubark_core.tests.profiles import examples, slow

FLORA = shipped_flora()
EXAMPLES = examples(150)
SIGN = {"sign": "exit_hole_d"}
# what is changed in a good case, the place that is named
BAD: tuple[tuple[dict[str, Any], str], ...] = (
    ({"on": "20 June"}, "on"),
    ({"on": "2026-02-30"}, "on"),
    ({"lat": 91}, "lat"),
    ({"lon": "west"}, "lon"),
    ({"areas": ["XXX"]}, "areas[0]"),
    ({"areas": "PEN"}, "areas"),
    ({"stage": "old"}, "stage"),
    ({"setting": "moon"}, "setting"),
    ({"host": []}, "host"),
    ({"host": {}}, "host"),
    ({"host": ["fraxinus"]}, "host[0]"),
    ({"host": [{"taxon": "nix", "probability": 1}]}, "host[0].taxon"),
    ({"host": [{"taxon": "fraxinus", "probability": 2}]}, "host[0].probability"),
    ({"host": [{"taxon": "fraxinus", "share": 1}]}, "host[0].share"),
    ({"host": [{"taxon": "fraxinus", "probability": 0}]}, "host"),
    ({"host": [{"taxon": "fraxinus", "probability": 0.7}, {"taxon": "acer", "probability": 0.7}]}, "host"),
    (
        {"host": [{"taxon": "fraxinus", "probability": 0.2}, {"taxon": "fraxinus", "probability": 0.2}]},
        "host[1].taxon",
    ),
    ({"entries": {}}, "entries"),
    ({"entries": [{"kind": "sign"}]}, "entries[0]"),
    ({"entries": [{"id": "a", "kind": "sign", "body": {}}]}, "entries[0].body"),
    ({"signs": {}}, "signs"),
    ({"signs": ["exit_hole_d"]}, "signs[0]"),
    ({"signs": [{"sign": "hole"}]}, "signs[0].sign"),
    ({"signs": [{"sign": ["x"]}]}, "signs[0].sign"),
    ({"signs": [SIGN | {"colour": "red"}]}, "signs[0].colour"),
    ({"signs": [SIGN | {"none": False}]}, "signs[0].none"),
    ({"signs": [SIGN | {"where": "bole"}]}, "signs[0].where"),
    ({"signs": [SIGN | {"where": ["trunk", 3]}]}, "signs[0].where[1]"),
    ({"signs": [SIGN | {"extent": "plenty"}]}, "signs[0].extent"),
    ({"signs": [SIGN | {"extent": 120}]}, "signs[0].extent"),
    ({"signs": [SIGN | {"size_mm": -1}]}, "signs[0].size_mm"),
    ({"signs": [{"sign": "felt_patches", "size_mm": 3}]}, "signs[0].size_mm"),
    ({"signs": [SIGN | {"side": "left"}]}, "signs[0].side"),
    ({"signs": [SIGN | {"since": "spring"}]}, "signs[0].since"),
    ({"signs": [SIGN | {"wipes_off": "yes"}]}, "signs[0].wipes_off"),
    ({"signs": [SIGN | {"certainty": "very"}]}, "signs[0].certainty"),
    ({"signs": [SIGN | {"count": 1.5}]}, "signs[0].count"),
    ({"signs": [SIGN | {"circumference_share": 40}]}, "signs[0].circumference_share"),
    ({"signs": [SIGN] * 201}, "signs"),
    ({"neighbours": []}, "neighbours"),
    ({"neighbours": {"same_host": 2, "same_host_affected": 3}}, "neighbours.same_host_affected"),
    ({"neighbours": {"others": 3}}, "neighbours.others"),
    ({"lab": [{"agent": "flu", "result": "positive"}]}, "lab[0].agent"),
    ({"lab": [{"agent": "oak-wilt", "result": "maybe"}]}, "lab[0].result"),
    ({"lab": [{"agent": "oak-wilt", "result": "positive", "from": "next tree"}]}, "lab[0].from"),
    ({"area_status": {"flu": {"status": "present"}}}, "area_status.flu"),
    ({"area_status": {"oak-wilt": {"status": "near"}}}, "area_status.oak-wilt.status"),
    ({"area_status": {"oak-wilt": {"status": "absent", "km": -3}}}, "area_status.oak-wilt.km"),
    ({"temperatures": {"min_c": [1]}}, "temperatures"),
    ({"temperatures": {"min_c": [9], "max_c": [1]}}, "temperatures.min_c[0]"),
    ({"temperatures": {"min_c": [9], "max_c": []}}, "temperatures.max_c"),
    ({"site": {"salt": 1}}, "site.salt"),
    ({"site": {"soil_ph": 15}}, "site.soil_ph"),
    ({"site": {"frost_on": "may"}}, "site.frost_on"),
    ({"site": {"weather": True}}, "site.weather"),
    ({"treatments": ["flu"]}, "treatments[0]"),
    ({"crown_loss_percent": 101}, "crown_loss_percent"),
    ({"dbh_cm": 0}, "dbh_cm"),
    ({"in_leaf": "yes"}, "in_leaf"),
    ({"planted_on": 2020}, "planted_on"),
    ({"reach": ["moon"]}, "reach[0]"),
    ({"tools": "eye"}, "tools"),
    ({"colour": 1}, "colour"),
    ({"": 1}, "an empty key"),
)
ANY_JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)


class BadInput(unittest.TestCase):
    def test_every_bad_form_names_its_place(self) -> None:
        for change, place in BAD:
            with self.subTest(place, change=str(change)[:60]):
                with self.assertRaises(InputError) as caught:
                    diagnose(AILING | change, FLORA)
                self.assertEqual(caught.exception.place, place)
                self.assertTrue(caught.exception.allowed)
        for missing in ("on", "host", "signs"):
            with self.assertRaises(InputError) as caught:
                diagnose({k: v for k, v in AILING.items() if k != missing}, FLORA)
            self.assertEqual(caught.exception.place, missing)

    @EXAMPLES
    @given(st.sampled_from([*CASE_KEYS, "signs.0"]), ANY_JSON)
    def test_any_json_is_read_or_refused(self, key: str, by: Any) -> None:
        raw = {"on": "2026-06-20", "host": [{"taxon": "fraxinus", "probability": 1}], "signs": [dict(SIGN)]}
        raw = raw | ({"signs": [by]} if key == "signs.0" else {key: by})
        try:
            read_health_case(raw, FLORA)
        except InputError as error:
            self.assertTrue(error.place)

    @EXAMPLES
    @given(st.sampled_from(SIGN_KEYS), ANY_JSON)
    def test_any_json_in_a_sign_is_read_or_refused(self, key: str, by: Any) -> None:
        raw = {
            "on": "2026-06-20",
            "host": [{"taxon": "fraxinus", "probability": 1}],
            "signs": [SIGN | {key: by}],
        }
        try:
            read_health_case(raw, FLORA)
        except InputError as error:
            self.assertTrue(error.place.startswith("signs[0]"))


class WhatACaseMayHold(unittest.TestCase):
    def test_synonyms_aliases_and_percent_are_taken_as_what_they_mean(self) -> None:
        case = read_health_case(
            {
                "on": "2026-06-20",
                "host": [{"taxon": "fraxinus-americana"}],
                "signs": [
                    {"sign": "holes_in_rows", "extent": 12.5, "side": "SW", "where": ["trunk", "trunk"]}
                ],
            },
            FLORA,
        )
        sign = case.signs[0]
        self.assertEqual(
            (sign.sign, sign.extent, sign.percent, sign.side, sign.where),
            ("sap_wells_rows", "some", 12.5, "sw", ("trunk",)),
        )
        self.assertEqual(case.hosts, (("fraxinus-americana", 1.0),))

    def test_everything_optional_at_once(self) -> None:
        more = {
            "elevation_m": 300,
            "reach": ["trunk"],
            "tools": ["eye"],
            "in_leaf": True,
            "dbh_cm": 40,
            "crown_loss_percent": 20,
            "planted_on": "2024-04-01",
            "cultivar": "Autumn Purple",
            "site": {
                "works": True,
                "salt": False,
                "irrigation": True,
                "drought": False,
                "frost_on": "2026-05-10",
                "herbicide": False,
                "soil_ph": 6.5,
            },
            "treatments": ["spongy-moth", {"agent": "oak-wilt", "on": "2025-06-01"}],
            "temperatures": {"min_c": [0.0] * 171, "max_c": [20.0] * 171},
            "lab": [{"agent": "ash-dieback", "result": "negative"}],
            "area_status": {"emerald-ash-borer": {"status": "present"}},
            "status": ["protected"],
        }
        found = diagnose(AILING | more, FLORA)
        self.assertEqual(found["season"]["degree_days"]["days"], 171)
        self.assertGreater(found["season"]["degree_days"]["value"], 500)


class Calibration(unittest.TestCase):
    """On virtual trees that the engine's own model did not make; half of them with something harmless."""

    @slow
    def test_what_is_stated_holds_and_neither_alarm_nor_calm_is_false(self) -> None:
        found = trial(FLORA, 3000, 11, HOSTS)
        self.assertLessEqual(found.error, 0.05)
        self.assertLess(found.missed, 0.05)
        self.assertLess(found.alarmed, 0.03)
        self.assertGreater(found.right, 0.7)
        self.assertGreater(min(found.grave, found.calm), 300)

    def test_the_same_seed_draws_the_same_trees(self) -> None:
        self.assertEqual(trial(FLORA, 30, 5, HOSTS), trial(FLORA, 30, 5, HOSTS))


class Recorded(unittest.TestCase):
    """The entries of a visit as they are recorded: the same answer as the case written out."""

    def entry(self, nth: int, kind: str, **body: Any) -> dict[str, Any]:
        return {"id": f"e{nth}", "kind": kind, "body": body}

    def test_name_signs_and_leaf_state_are_taken_from_the_entries(self) -> None:
        entries = [
            self.entry(1, "determination", entered="Ash", taxon="fraxinus-americana", name="Fraxinus"),
            self.entry(2, "sign", sign="exit_hole_d", extent="few", where=["trunk"], size_mm=3.5, number=4),
            self.entry(3, "sign", sign="thinning_from_top", extent_percent=0, first_seen="this_year"),
            self.entry(4, "sign", sign="galleries_other", present=False, wipes_off=False),
            self.entry(5, "condition", leafless=True, word="fair"),
            self.entry(6, "note", text="by the gate"),
        ]
        base = {"on": "2026-06-20", "areas": ["PEN"], "host": [{"taxon": "fraxinus"}]}
        written = {
            **base,
            "host": [{"taxon": "fraxinus-americana", "probability": 0.97}],
            "signs": [
                {
                    "id": "e2",
                    "sign": "exit_hole_d",
                    "extent": "few",
                    "where": ["trunk"],
                    "size_mm": 3.5,
                    "count": 4,
                },
                {"id": "e3", "sign": "thinning_from_top", "extent": 0, "since": "this_year"},
                {"id": "e4", "sign": "galleries_other", "none": True, "wipes_off": False},
            ],
            "in_leaf": False,
        }
        self.assertEqual(
            read_health_case({**base, "entries": entries}, FLORA), read_health_case(written, FLORA)
        )
        self.assertEqual(
            read_health_case({**base, "entries": []}, FLORA).hosts,
            (("fraxinus", 0.97),),
            "a name of before, given by a person",
        )
