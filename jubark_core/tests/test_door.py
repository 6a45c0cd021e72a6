"""The one door: every operation keeps what its TypedDicts say, and nothing gets in that they do not."""

from __future__ import annotations

import copy
import json
import tomllib
import unittest
from typing import Any
from unittest import mock
from xml.etree import ElementTree

from hypothesis import given
from hypothesis import strategies as st

from jubark_core import door
from jubark_core.errors import InputError
from jubark_core.flora import views
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.model import Flora
from jubark_core.recording import record_entry
from jubark_core.records.typed_schema import hint_schema, require_shape
from jubark_core.records.upgrade import VERSION
from jubark_core.season.place import Place
from jubark_core.tests import samples
from jubark_core.tests.door_requests import CASE, IDS, SOUND, VISIT
from jubark_core.tests.profiles import examples
from jubark_core.tests.small_flora import character, small_flora
from jubark_core.tests.test_gold_cases import FILE, case_of

FLORA = shipped_flora()
NEXT = ("next_looks", "withheld", "live_pruned")


def ask(operation: str, given: Any) -> Any:
    """The answer as it leaves the door: through JSON and back."""
    return json.loads(json.dumps(door.run(operation, given, FLORA), allow_nan=False))


class EveryOperation(unittest.TestCase):
    def test_has_a_sound_request_here(self) -> None:
        self.assertEqual(SOUND.keys(), door.OPERATIONS.keys())

    def test_answers_in_the_shape_it_promises_and_leaves_the_request_as_it_was(self) -> None:
        for name, what in door.OPERATIONS.items():
            with self.subTest(name):
                before = copy.deepcopy(SOUND[name])
                require_shape(what.takes, SOUND[name])
                require_shape(what.gives, ask(name, SOUND[name]))
                self.assertEqual(SOUND[name], before)

    def test_is_described_with_every_component_it_refers_to(self) -> None:
        known = door.door_components()
        text = json.dumps([hint_schema(w.takes) for w in door.OPERATIONS.values()] + list(known.values()))
        named = {part.split('"')[0] for part in text.split("#/components/schemas/")[1:]}
        self.assertEqual(named - known.keys(), set())

    def test_refuses_an_unknown_operation_an_unknown_key_and_what_is_missing(self) -> None:
        for name, asked, place in (
            ("sing", {}, "operation"),
            ("species", {}, "taxon"),
            ("species", {"taxon": "acer-rubrum", "id": 5}, "id"),
            ("species", {"taxon": "acer-rubrum", "": 5}, "an empty key"),
            ("species", ["acer-rubrum"], "body"),
            ("species", {"taxon": 5}, "taxon"),
            ("plate", {**SOUND["plate"], "place": {"lat": 91, "lon": 0}}, "place.lat"),
            ("plate", {**SOUND["plate"], "place": {"lat": 1, "lon": float("nan")}}, "place.lon"),
            ("plate", {**SOUND["plate"], "on": "tomorrow"}, "on"),
            ("plate", {**SOUND["plate"], "part": "root"}, "part"),
            ("season", {"on": "2026-07-01", "counts": {"acer-rubrum": -1}}, "counts.acer-rubrum"),
            ("season", {"on": "2026-07-01", "counts": {"acer-rubrum": True}}, "counts.acer-rubrum"),
            ("side-by-side", {"taxa": ["acer-rubrum"], "on": "2026-07-01"}, "taxa"),
            ("space", {"taxon": "nobody", "things": []}, "taxon"),
            ("name", [CASE] * 21, "cases"),
            ("check-visit", {**VISIT, "entries": [{"kind": "note"}]}, "entries[0]"),
            ("check-visit", {**VISIT, "units": "furlongs"}, "units"),
        ):
            with self.subTest(name, place=place), self.assertRaises(InputError) as caught:
                door.run(name, asked, FLORA)
            self.assertEqual(caught.exception.place, place)
            self.assertTrue(caught.exception.allowed)


NOTHING_KNOWN: dict[str, Any] = {"taxon": "", "before": {}, "neighbours": {}}
ODD = st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8)


@st.composite
def spoilt(draw: Any) -> tuple[str, Any]:
    """An operation and its sound request with one place in it replaced by something odd."""
    name = draw(st.sampled_from(sorted(set(SOUND) - {"vocabulary", "tiles", "name", "next"})))
    request = copy.deepcopy(SOUND[name])
    at = request
    while True:
        key = draw(st.sampled_from(list(at) if isinstance(at, dict) else list(range(len(at)))))
        if isinstance(at[key], dict | list) and at[key] and draw(st.booleans()):
            at = at[key]
            continue
        at[key] = draw(
            ODD | st.lists(ODD, max_size=2) | st.dictionaries(st.text(max_size=4), ODD, max_size=2)
        )
        return name, request


class AnyRequest(unittest.TestCase):
    @examples(150)
    @given(spoilt())
    def test_gives_an_answer_of_its_shape_or_says_what_is_wrong(self, asked: tuple[str, Any]) -> None:
        name, request = asked
        try:
            answer = door.run(name, request, FLORA)
        except InputError as error:
            self.assertTrue(error.place and error.allowed)
            return
        require_shape(door.OPERATIONS[name].gives, json.loads(json.dumps(answer, allow_nan=False)))


class Halves(unittest.TestCase):
    """`rank` and `next` are the two halves of `name`, on the gold cases."""

    def test_together_they_are_the_whole_answer(self) -> None:
        for gold in tomllib.loads(FILE.read_text(encoding="utf-8"))["case"][::7]:
            with self.subTest(gold["title"]):
                case = case_of(gold)
                whole, ranking, ahead = (ask(name, case) for name in ("name", "rank", "next"))
                self.assertEqual([ranking.pop(key) for key in NEXT], [None, None, None], "not asked for")
                self.assertEqual({**ranking, **ahead}, whole)
                self.assertIsInstance(ahead["next_looks"], list)

    def test_nothing_worth_a_look_is_an_empty_list_not_null(self) -> None:
        """One taxon, nothing to find out; worked by hand."""
        alone = small_flora({"leaf.x": character("one", states=["a", "b"])}, {"one": {"leaf.x": {"a": 1.0}}})
        case = {"on": "2026-07-01", "observations": []}
        self.assertEqual(door.run("next", case, alone)["next_looks"], [])
        self.assertIsNone(door.run("rank", case, alone)["next_looks"])


class ObservationsById(unittest.TestCase):
    def referred(self, case: dict[str, Any]) -> set[Any]:
        answer = ask("rank", case)
        bits = [b for c in answer["candidates"] for b in (*c["for"], *c["against"])]
        rows = [*bits, *answer["ruled_out"], *answer["samples"]]
        of_lists = [o for c in answer["candidates"] for o in c["both_have"]]
        odd = [o for c in answer["contradictions"] for o in c["observations"]]
        return {row["observation"] for row in rows} | set(of_lists) | set(odd)

    def test_an_answer_refers_to_the_ids_the_case_gives_in_whatever_order(self) -> None:
        self.assertEqual(self.referred(CASE), {"first", "second"})
        turned = {**CASE, "observations": CASE["observations"][::-1]}
        self.assertEqual(self.referred(turned), {"first", "second"})

    def test_without_ids_to_their_place_as_the_contract_has_it(self) -> None:
        bare = [{k: v for k, v in o.items() if k != "id"} for o in CASE["observations"]]
        self.assertEqual(self.referred({**CASE, "observations": bare}), {0, 1})

    def test_ids_change_nothing_else(self) -> None:
        bare = [{k: v for k, v in o.items() if k != "id"} for o in CASE["observations"]]
        with_ids, without = (
            [(c["taxon"], c["probability"]) for c in ask("rank", {**CASE, "observations": o})["candidates"]]
            for o in (CASE["observations"], bare)
        )
        self.assertEqual(with_ids, without)

    def test_an_organ_seen_and_missing_names_both_ids(self) -> None:
        both = [
            {"id": "there", "character": "fruit.kind", "state": "acorn"},
            {"id": "gone", "character": "fruit.colour", "none": True},
        ]
        odd = ask("rank", {**CASE, "observations": both})["contradictions"]
        self.assertIn(["there", "gone"], [c["observations"] for c in odd])

    def test_an_id_twice_is_refused(self) -> None:
        with self.assertRaises(InputError) as caught:
            ask("rank", {**CASE, "observations": [CASE["observations"][0]] * 2})
        self.assertEqual(caught.exception.place, "observations[1].id")


class CheckVisit(unittest.TestCase):
    def checked(self, **change: Any) -> dict[str, Any]:
        return {e["id"]: e for e in ask("check-visit", {**VISIT, **change})["entries"]}

    def test_each_entry_by_itself_and_a_bad_one_spoils_no_other(self) -> None:
        bad = copy.deepcopy(VISIT["entries"])
        bad[1]["body"]["raw"]["angles"]["top"] = "steep"
        found = self.checked(entries=bad)
        self.assertEqual(set(found), set(IDS[:4]), "a note is not judged")
        self.assertEqual(found[IDS[1]]["refused"]["field"], "raw.angles.top")
        self.assertEqual(found[IDS[0]]["figure"]["value"], 306.0)
        sheet = found[IDS[3]]["risk"]
        self.assertEqual((sheet["rating"], sheet["reads"]), ("high", "Incomplete: at least high"))
        self.assertEqual(sheet["act"]["urgency"], "within_days")
        # trunk 3 and twigs 4: good by the table, but base and scaffold were not seen
        whole = found[IDS[2]]["condition"]
        self.assertEqual((whole["whole"], whole["at_most"], whole["winter_view"]), ("fair", True, True))

    def test_out_of_leaf_dieback_is_refused_before_it_is_sent(self) -> None:
        dieback = {"quantity": "dieback_pct", "raw": {"value": 10}}
        entries = [*VISIT["entries"], {"id": IDS[5], "kind": "measurement", "body": dieback}]
        self.assertEqual(self.checked(entries=entries)[IDS[5]]["refused"]["field"], "quantity")
        entries[2] = {**entries[2], "body": {"parts": {"trunk": 3, "twigs": 4}}}
        self.assertEqual(self.checked(entries=entries)[IDS[5]]["figure"]["value"], 10)

    def test_a_body_that_is_no_record_is_refused_beside_a_figure_that_is_judged(self) -> None:
        for body in (5, None, [], "dbh", {"quantity": []}, {"quantity": "dbh_cm", "raw": 3}):
            with self.subTest(body=body):
                odd = {"id": IDS[5], "kind": "measurement", "body": body}
                found = self.checked(entries=[VISIT["entries"][0], odd])
                self.assertIsNotNone(found[IDS[5]]["refused"])
                self.assertEqual(found[IDS[0]]["figure"]["value"], 306.0)

    def test_a_figure_is_held_against_the_last_visit_and_the_slip_is_offered(self) -> None:
        figure = self.checked()[IDS[0]]["figure"]
        self.assertEqual(figure["before"]["value"], 30.0)
        self.assertEqual(figure["meant"][0], {"value": 30.6, "why": "decimal point one place off"})
        self.assertTrue(figure["warnings"][0].startswith("276.0 cm more than at the last visit (30.0 cm)"))

    def test_on_a_customary_site_the_warning_is_in_inches(self) -> None:
        figure = self.checked(units="us_customary")[IDS[0]]["figure"]
        self.assertTrue(figure["warnings"][0].startswith("108.7 in more than at the last visit (11.8 in)"))
        self.assertAlmostEqual(figure["meant"][0]["value"], 12.0 * 2.54)  # 12.0 on the tape

    def test_the_height_is_that_of_two_angles(self) -> None:
        """20 m × (tan 45° + tan 5°), a trigonometric identity worked by hand: 20 × 1.08749 = 21.7498."""
        self.assertAlmostEqual(self.checked()[IDS[1]]["figure"]["value"], 21.74977, places=4)

    def test_what_is_shown_while_it_is_written_is_what_is_recorded(self) -> None:
        """Every measurement, condition and worksheet a device ever sent: checked and recorded they agree."""
        seen: set[str] = set()
        for raw in samples.entries(VERSION):
            if raw["kind"] not in ("measurement", "condition", "risk"):
                continue
            recorded: Any = record_entry(raw, FLORA).body
            found = self.checked(entries=[raw], known=NOTHING_KNOWN).get(raw["id"])
            with self.subTest(raw["kind"], id=raw["id"]):
                if raw["kind"] == "measurement" and found:
                    figure = found["figure"]
                    self.assertEqual(
                        (figure["value"], figure["stems"], figure.get("error_m")),
                        (recorded.value, recorded.stems, recorded.error_m),
                    )
                elif raw["kind"] == "condition" and recorded.parts and found:
                    judged = found["condition"]
                    self.assertEqual(
                        (judged["whole"], judged["health"], judged["structure"]),
                        (recorded.word, recorded.health, recorded.structure),
                    )
                elif raw["kind"] == "risk" and found:
                    self.assertEqual(
                        (found["risk"]["rating"] or "", [r["rating"] for r in found["risk"]["rows"]]),
                        (recorded.rating, [r.rating for r in recorded.rows]),
                    )
                else:
                    continue
                seen.add(raw["kind"])
        self.assertEqual(seen, {"measurement", "condition", "risk"})

    def test_neighbours_of_another_name_do_not_count(self) -> None:
        crowd = {**VISIT["known"], "before": {}, "neighbours": {"dbh_cm": [28.0, 30.0, 31.0, 29.0, 33.0]}}
        named = {"id": IDS[5], "kind": "determination", "body": {"entered": "oak", "taxon": "quercus-alba"}}
        same = self.checked(known=crowd)[IDS[0]]["figure"]["warnings"]
        other = self.checked(known=crowd, entries=[*VISIT["entries"], named])[IDS[0]]["figure"]["warnings"]
        self.assertTrue(any("neighbours" in w for w in same))
        self.assertFalse(any("neighbours" in w for w in other))


class Names(unittest.TestCase):
    def test_of_names_that_fit_equally_those_that_are_there_come_first(self) -> None:
        """'qu' begins quickthorn and Quercus alike: on a site of oaks the oaks come first."""
        asked = {"words": "qu", "counts": {"quercus-alba": 40, "quercus-rubra": 7}}
        oaks = [row["taxon"] for row in ask("find-names", asked)]
        self.assertEqual(oaks[:2], ["quercus", "quercus-alba"])
        self.assertLess(oaks.index("quercus-rubra"), 6)
        self.assertNotEqual(ask("find-names", {"words": "qu"})[0]["taxon"], "quercus")
        exact = ask("find-names", {"words": "acer rubrum", "counts": {"quercus-alba": 40}})
        self.assertEqual(exact[0]["taxon"], "acer-rubrum", "what fits better stays before it")


class Drawn(unittest.TestCase):
    def test_a_plate_is_svg_text_and_follows_the_season(self) -> None:
        svg = ask("plate", SOUND["plate"])["svg"]
        self.assertEqual(ElementTree.fromstring(svg).tag, "{http://www.w3.org/2000/svg}svg")
        self.assertNotEqual(svg, ask("plate", {**SOUND["plate"], "on": "2026-10-25"})["svg"])

    def test_side_by_side_puts_first_what_can_be_seen(self) -> None:
        rows = ask("side-by-side", SOUND["side-by-side"])["rows"]
        where = {row["character"]: row["where"] for row in rows}
        self.assertEqual(where["twig.leaf_scar_top"], "plant")  # told by the notch of the scar, in January
        order = [("plant", "ground", "later").index(row["where"]) for row in rows]
        self.assertEqual(order, sorted(order))

    def test_the_month_and_the_ring_of_what_is_there(self) -> None:
        sheet = ask("year", SOUND["year"])
        self.assertEqual([(r["taxon"], r["plants"]) for r in sheet], [("acer-rubrum", 1)])
        leaf = next(r for r in ask("season", SOUND["season"]) if r["organ"] == "leaf")
        self.assertEqual((leaf["year"][13], leaf["year"][0]), (1.0, 0.0))  # mid-July, New Year

    def test_half_a_year_apart_south_of_the_equator(self) -> None:
        south = {**SOUND["season"], "place": {"lat": -37.8, "lon": 145.0}}
        leaf = next(r for r in ask("season", south) if r["organ"] == "leaf")
        self.assertEqual((leaf["year"][13], leaf["year"][0]), (0.0, 1.0))


class Views(unittest.TestCase):
    """What is worked out from a flora is kept around it, and bounded."""

    def test_equal_questions_share_a_view_and_the_flora_holds_none(self) -> None:
        self.assertIs(views.shows(FLORA, "mature", 0.24), views.shows(FLORA, "mature", 0.26))
        self.assertIsNot(views.shows(FLORA, "mature"), views.shows(Flora(FLORA.compiled), "mature"))
        held = {name: value for name, value in vars(FLORA).items() if isinstance(value, type(views.shows))}
        self.assertEqual(held, {})

    def test_a_view_that_has_grown_too_large_starts_afresh(self) -> None:
        small = Flora(FLORA.compiled)
        first = views.shows(small, "mature")
        first.reports["one",], first.reports["two",] = 1, 2
        with mock.patch.object(views, "MOST_ROWS", 1):
            self.assertIsNot(views.shows(small, "mature"), first)
        self.assertEqual(
            first.reports, {("one",): 1, ("two",): 2}, "whoever reads the old one goes on with it"
        )

    def test_days_of_a_place_are_kept_and_a_record_of_temperatures_is_not(self) -> None:
        place = Place(40.5, -79.3, 310)
        one, two = (views.days_of(FLORA, "acer-rubrum", place) for _ in range(2))
        self.assertIs(one, two)
        self.assertIsNot(views.days_of(FLORA, "acer-rubrum", place, lambda day: day), one)
