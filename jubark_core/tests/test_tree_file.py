"""The file of a tree against a naive model: for each field and each day, the greatest entry that counts."""

from __future__ import annotations

import datetime
import unittest
import uuid
from itertools import pairwise
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import load, write
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
