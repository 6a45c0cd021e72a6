"""The file of a tree against a naive model: for each field and each day, the greatest entry that counts."""

from __future__ import annotations

import datetime
import itertools
import unittest
import uuid
from itertools import pairwise
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.door import run
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import load, write
from jubark_core.records.words import RATINGS
from jubark_core.tests.profiles import examples
from jubark_core.tree_file.file import tree_file
from jubark_core.tree_file.filed import Filed, SeenOn
from jubark_core.tree_file.now import SPAN_FIELDS

EXAMPLES = examples(150)
TREE = uuid.UUID(int=7)
NOON = datetime.datetime(2026, 1, 1, 12, tzinfo=datetime.UTC)
DAYS = [datetime.date(2020, 1, 1) + datetime.timedelta(days=100 * i) for i in range(5)]
# what is recorded -> (kind, body, field of the projection)
RECORDED = {
    "dbh": ("measurement", lambda v: {"quantity": "dbh_cm", "raw": {"value": v}, "value": v}, "dbh_cm"),
    "height": (
        "measurement",
        lambda v: {"quantity": "height_m", "raw": {"value": v}, "value": v},
        "height_m",
    ),
    "base": ("measurement", lambda v: {"quantity": "crown_base_m", "raw": {"value": v}, "value": v}, None),
    "condition": ("condition", lambda v: {"word": ("good", "fair", "poor")[int(v) % 3]}, "condition"),
    "life": ("life", lambda v: {"state": ("alive", "fallen", "stump")[int(v) % 3]}, "life"),
    "name": ("determination", lambda v: {"entered": f"t{v:.0f}", "taxon": f"t{v:.0f}", "name": "n"}, "taxon"),
    "tag": ("tag", lambda v: {"number": f"{v:.0f}"}, "tag"),
    "cause": (
        "diagnosis",
        lambda v: {"verdict": "cause", "cause": f"c{v:.0f}", "standing": "suspicion"},
        "cause",
    ),
}
EMPTY = {
    "dbh_cm": None,
    "height_m": None,
    "condition": "",
    "life": "alive",
    "taxon": "",
    "tag": "",
    "cause": "",
}


@st.composite
def histories(draw: Any) -> list[Filed]:
    """Entries of one plant: recorded, corrected (the same one twice too), withdrawn, of doubted days."""
    visits = [
        SeenOn(
            draw(st.sampled_from(DAYS)),
            NOON + datetime.timedelta(minutes=draw(st.integers(0, 2))),
            draw(st.sampled_from(["field", "desk"])),
            draw(st.booleans()) and draw(st.booleans()),
        )
        for _ in range(draw(st.integers(1, 4)))
    ]
    ids = [uuid.UUID(int=i + 1) for i in range(len(visits))]
    rows: list[Filed] = []
    what: dict[uuid.UUID, str] = {}
    for number in range(draw(st.integers(0, 14))):
        made = uuid.UUID(int=draw(st.integers(100, 10**6)))
        if made in what:
            continue
        act = draw(st.sampled_from(["record"] * 4 + ["correct"] * 3 + ["withdraw", "confirm"]))
        at = draw(st.integers(0, len(visits) - 1))
        replaces = retracts = None
        bodies = [r for r in rows if r.kind != "clock_confirmed" and r.retracts_id is None]
        if act == "confirm":
            what[made], kind, body = "confirmed", "clock_confirmed", {}
        elif act == "record" or not bodies:
            name = draw(st.sampled_from(sorted(RECORDED)))
            what[made] = name
            kind, body = RECORDED[name][0], RECORDED[name][1](float(draw(st.integers(1, 9))))
        else:
            named = draw(st.sampled_from(bodies))
            at, kind, name = ids.index(named.visit_id), named.kind, what[named.id]
            what[made] = name
            if act == "correct":
                replaces, body = named.id, RECORDED[name][1](float(draw(st.integers(1, 9))))
            else:
                retracts, body = named.id, {}
        received = NOON + datetime.timedelta(seconds=number // 2)  # two may arrive in one moment
        read = None if retracts else load(KINDS[kind].body, body)
        rows.append(Filed(made, TREE, kind, read, replaces, retracts, received, ids[at], visits[at]))
    return rows


def counting(rows: list[Filed]) -> list[Filed]:
    """The entries that count, one for each chain, by the words of the rule."""
    by_id = {r.id: r for r in rows}

    def first(row: Filed) -> uuid.UUID:
        return first(by_id[row.replaces_id]) if row.replaces_id else row.id

    withdrawn = {first(by_id[r.retracts_id]) for r in rows if r.retracts_id}
    confirmed = {r.visit_id for r in rows if r.kind == "clock_confirmed"}
    corrected = {r.replaces_id for r in rows}
    newest: dict[uuid.UUID, Filed] = {}
    for row in sorted(rows, key=lambda r: (r.received_at, r.id)):
        if row.retracts_id is None and row.id not in corrected:
            newest[first(row)] = row
    return [
        r
        for chain, r in newest.items()
        if chain not in withdrawn and (not r.visit.clock_doubtful or r.visit_id in confirmed)
    ]


def known(rows: list[Filed], day: datetime.date) -> dict[str, Any]:
    """What the entries that count say of each field up to a day: for each, the greatest."""
    found = dict(EMPTY)
    for _, (kind, make, field) in RECORDED.items():
        if field is None:
            continue
        quantity = make(1.0).get("quantity")
        own = [
            r
            for r in counting(rows)
            if r.kind == kind and getattr(r.body, "quantity", None) == quantity and r.visit.local_date <= day
        ]
        if own:
            last = max(own, key=lambda r: (r.visit.local_date, r.visit.observed_at, r.received_at, r.id))
            body = write(last.body)
            found[field] = body.get(
                "value",
                body.get("word", body.get("state", body.get("taxon", body.get("number", body.get("cause"))))),
            )
    return found


class Projections(unittest.TestCase):
    @EXAMPLES
    @given(histories())
    def test_now_and_on_every_day_as_a_naive_reading_has_it(self, rows: list[Filed]) -> None:
        file = tree_file([rows])
        current, spans = file.now, file.spans
        expected = known(rows, DAYS[-1])
        self.assertEqual({field: current[field] for field in expected}, expected)
        for day in DAYS:
            on = [s for s in spans if s["from_day"] <= day and (s["to_day"] is None or day < s["to_day"])]
            self.assertLessEqual(len(on), 1)
            shown = {field: on[0][field] if on else EMPTY[field] for field in SPAN_FIELDS}
            self.assertEqual(shown, {f: known(rows, day)[f] for f in SPAN_FIELDS}, day)

    @EXAMPLES
    @given(histories(), st.randoms(use_true_random=False))
    def test_the_order_in_which_rows_are_read_says_nothing(self, rows: list[Filed], rng: Any) -> None:
        shuffled = [*rows]
        rng.shuffle(shuffled)
        one, other = tree_file([rows]), tree_file([shuffled])
        self.assertEqual((one.now, one.spans), (other.now, other.spans))

    @EXAMPLES
    @given(histories())
    def test_spans_follow_each_other_and_each_differs_from_the_one_before(self, rows: list[Filed]) -> None:
        spans = tree_file([rows]).spans
        for before, after in pairwise(spans):
            self.assertEqual(before["to_day"], after["from_day"])
            self.assertNotEqual([before[f] for f in SPAN_FIELDS], [after[f] for f in SPAN_FIELDS])
        self.assertEqual([s["to_day"] for s in spans[-1:]], [None] * len(spans[-1:]))


def filed(kind: str, day: int, record: uuid.UUID = TREE, visit: int = 0, **body: Any) -> Filed:
    """An entry of the n-th day of 2026, received in the order in which it was made."""
    on = datetime.date(2026, 1, 1) + datetime.timedelta(days=day)
    number = next(NUMBERS)
    at = datetime.datetime.combine(on, datetime.time(12), datetime.UTC)
    received = NOON + datetime.timedelta(days=400, seconds=number)
    ids = (uuid.UUID(int=number), record, kind, load(KINDS[kind].body, body))
    return Filed(*ids, None, None, received, uuid.UUID(int=visit or number), SeenOn(on, at, "field", False))


def an_id(number: int) -> str:
    """An id for tests."""
    return str(uuid.UUID(int=number, version=4))


NUMBERS = itertools.count(10**7)
TWICE = uuid.UUID(int=8)
LOOKS: dict[str, dict[str, Any]] = {
    "neither": {"under_it": ("neither",), "lies": "fallen", "blocks": "nothing", "next_step": "nothing"},
    "person": {"under_it": ("person",)},
}
PERMIT = {"check_closed": "C4", "what": "operator", "by": "line desk", "reference": "7"}
AFTER: tuple[tuple[str, dict[str, Any]], ...] = (
    ("storm", LOOKS["neither"]),
    ("storm", LOOKS["person"]),
    ("life", {"state": "removed"}),
    ("clearance", {**PERMIT, "until": "2026-12-31"}),
    ("clearance", {**PERMIT, "what": "services"}),
    ("clearance", {**PERMIT, "check_closed": "C5", "what": "line_clear"}),
    ("inspection", {"level": "basic", "base_visible": "all_round", "crown_visible": "whole"}),
)
CLEAR = {**PERMIT, "what": "line_clear"}


class Wires(unittest.TestCase):
    @EXAMPLES
    @given(st.lists(st.tuples(st.sampled_from(AFTER), st.integers(0, 300), st.booleans()), max_size=6))
    def test_nothing_ends_the_hold_but_the_operators_word_after_the_look(self, later: Any) -> None:
        """Whatever is recorded of either record, on any later day, whichever record saw the wires."""
        look = filed("storm", 10, under_it=("wires",))
        rest = [filed(kind, 11 + day, TWICE if twice else TREE, **body) for (kind, body), day, twice in later]
        cleared_before = filed("clearance", 9, **CLEAR)
        records = [[e for e in (cleared_before, look, *rest) if e.record == r] for r in (TREE, TWICE)]
        for ordered in (records, records[::-1]):
            file = tree_file(ordered, datetime.date(2027, 6, 1), datetime.date(2026, 2, 1))
            self.assertEqual(file.wires and file.wires.look, look.id)
            ended = tree_file(
                [*ordered, [filed("clearance", 320, TWICE, **CLEAR)]], datetime.date(2027, 6, 1)
            )
            self.assertIsNone(ended.wires)
            again = tree_file([*ended.records, [filed("storm", 330, under_it=("wires", "person"))]])
            self.assertIsNotNone(again.wires)

    def test_before_the_look_there_is_none_and_in_the_same_visit_nobody_clears_it(self) -> None:
        look = filed("storm", 10, visit=5, under_it=("wires",))
        same = filed("clearance", 10, visit=5, **CLEAR)
        self.assertIsNone(tree_file([[look]], datetime.date(2026, 1, 10)).wires)
        self.assertIsNotNone(tree_file([[look, same]], datetime.date(2026, 1, 11)).wires)


SHEET = {"years": 1.0, "level": "basic", "base_seen": "all_round", "crown_seen": "whole", "no_next": True}


class Merged(unittest.TestCase):
    """Two records of one tree: the gravest leads until somebody has seen the whole tree."""

    @EXAMPLES
    @given(st.sampled_from(RATINGS), st.sampled_from(RATINGS), st.integers(0, 40), st.integers(0, 40))
    def test_merging_never_lowers_a_rating_and_parting_restores(
        self, one: str, other: str, day: int, then: int
    ) -> None:
        own = [filed("risk", day, rating=one, reads=one, rows=(), **SHEET)]
        twice = [filed("risk", then, TWICE, rating=other, reads=other, rows=(), **SHEET)]
        merged_on = datetime.date(2026, 3, 1)
        worst = max(one, other, key=RATINGS.index)
        self.assertEqual(tree_file([own, twice], None, merged_on).now["risk_reads"], worst)
        self.assertEqual(tree_file([own]).now["risk_reads"], one)
        seen = [*own, filed("risk", 90, rating="low", reads="Low", rows=(), **SHEET)]
        self.assertEqual(tree_file([seen, twice], None, merged_on).now["risk_reads"], "Low")
        blind = {**SHEET, "base_seen": "partly"}
        in_part = [*own, filed("risk", 90, rating="low", reads="Low", rows=(), **blind)]
        found = tree_file([in_part, twice], None, merged_on).now["risk_reads"]
        self.assertEqual(found, other if other != "low" else "Low", "a look at a part decides nothing anew")

    def test_a_suspicion_on_either_record_leads_whatever_the_other_was_held_to_have_later(self) -> None:
        borer = {"verdict": "cause", "cause": "emerald-ash-borer", "standing": "suspicion"}
        scorch = {"verdict": "cause", "cause": "leaf-scorch", "standing": ""}
        suspected = filed("diagnosis", 10, TWICE, **borer)
        for later in (scorch, {"verdict": "nothing_wrong"}):
            file = tree_file(
                [[filed("diagnosis", 40, **later)], [suspected]], None, datetime.date(2026, 3, 1)
            )
            self.assertEqual(
                (file.now["cause"], file.now["cause_standing"]), ("emerald-ash-borer", "suspicion")
            )
        out = filed("diagnosis", 50, **{**borer, "standing": "ruled_out"})
        whole = filed("inspection", 90, level="basic", base_visible="all_round", crown_visible="whole")
        seen = tree_file([[out, whole], [suspected]], None, datetime.date(2026, 3, 1))
        self.assertEqual(seen.now["cause"], "", "a person has seen the whole tree since, and ruled it out")

    def test_an_inspection_that_saw_the_whole_counts_whichever_record_it_is_of(self) -> None:
        full = filed("inspection", 80, level="basic", base_visible="all_round", crown_visible="whole")
        tried = filed("inspection", 100, TWICE, level="basic", no_access="locked yard")
        looks = tree_file([[tried], [full]]).looks
        self.assertEqual([(k.on.month, k.is_attempt) for k in looks], [(3, False), (4, True)])


class OnADevice(unittest.TestCase):
    """The file as an operation: what has not been sent counts as the server will judge it."""

    def ask(self, *entries: dict[str, Any], **more: Any) -> Any:
        visit = {"id": an_id(500), "local_date": "2026-10-20", "observed_at": "2026-10-20T09:00:00Z"}
        records = [{"record": an_id(500), "visits": [{**visit, "entries": list(entries)}]}]
        return run("tree-file", {"on": "2026-10-21", "records": records, **more}, shipped_flora())

    def test_an_unsent_visit_counts_at_once_and_what_cannot_be_recorded_does_not(self) -> None:
        job = an_id(77)
        work = {"job": job, "rule": "R01", "step": "accepted"}
        found = self.ask(
            {"id": an_id(1), "kind": "condition", "body": {"parts": {"trunk": 1, "twigs": 4}}},
            {"id": an_id(2), "kind": "storm", "body": {"under_it": ["wires"]}},
            {"id": an_id(3), "kind": "work", "body": work},
            {"id": an_id(4), "kind": "life", "body": {"state": "asleep"}},
        )
        self.assertEqual(found["condition"]["reads"], "at most poor")
        self.assertEqual(found["wires"]["since"], "2026-10-20")
        self.assertEqual(
            [(j["job"], j["step"], j["next"]) for j in found["jobs"]], [(job, "accepted", "planned")]
        )
        self.assertEqual(found["not_counted"], [an_id(4)])
        self.assertEqual((found["life"], found["stands"]), ("alive", True))

    def test_a_look_that_the_app_before_kept_on_the_device_holds_the_tree_too(self) -> None:
        for received in ({}, {"received_at": "2026-10-20T10:00:00Z"}):
            look = {"id": an_id(2), "kind": "storm", "body": {"under_it": "wires"}, **received}
            self.assertEqual(self.ask(look)["wires"]["since"], "2026-10-20")

    def test_an_unsent_word_of_winter_is_one_by_the_place_of_the_site(self) -> None:
        name = {"entered": "Quercus alba", "taxon": "quercus-alba", "name": "Quercus alba"}
        day = {"local_date": "2026-01-20", "observed_at": "2026-01-20T09:00:00Z"}
        entries = [
            {"id": an_id(1), "kind": "determination", "body": name},
            {"id": an_id(2), "kind": "condition", "body": {"word": "good"}},
        ]
        records = [{"record": an_id(500), "visits": [{"id": an_id(501), **day, "entries": entries}]}]
        asked = {"on": "2026-01-21", "records": records}
        at = {"place": {"lat": 40.5, "lon": -79.3, "elevation_m": 310}}
        for place, reads in (({}, "good"), (at, "good, winter view")):
            found = run("tree-file", {**asked, **place}, shipped_flora())
            self.assertEqual(found["condition"]["reads"], reads)

    def test_points_keep_their_pictures_through_a_correction(self) -> None:
        point, again, other = (an_id(i) for i in (1, 2, 3))
        photo = {"bytes": 1, "sha256": "b" * 64}
        taken = [
            {"id": an_id(9 + i), "kind": "photo", "body": {**photo, "shows": shows}}
            for i, shows in enumerate((point, again, other))
        ]
        found = self.ask(
            {"id": point, "kind": "photo_point", "body": {"name": "gate"}},
            {"id": again, "kind": "photo_point", "body": {"name": "the gate"}, "replaces": point},
            *taken,
        )
        [only] = found["photo_points"]
        self.assertEqual((only["id"], only["body"]["name"]), (again, "the gate"))
        self.assertEqual([p["id"] for p in only["pictures"]], [t["id"] for t in taken[:2]])

    def test_bad_forms_name_their_place(self) -> None:
        tag_ = {"id": an_id(500), "kind": "tag", "body": {"number": "7"}}
        at = "records[0].visits[0].entries[0]"
        for entry, place in (
            ({**tag_, "id": "x"}, f"{at}.id"),
            ({**tag_, "kind": "look"}, f"{at}.kind"),
            ({**tag_, "received_at": "soon"}, f"{at}.received_at"),
            ({**tag_, "replaces": "y"}, f"{at}.replaces"),
            ({**tag_, "body": {}, "received_at": "2026-10-20T09:00:00Z"}, f"{at}.body"),
        ):
            with self.assertRaises(InputError) as caught:
                self.ask(entry)
            self.assertEqual(caught.exception.place, place)
