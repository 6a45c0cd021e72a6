"""The desk answers what the door answers, and keeps a running case without letting it show."""

from __future__ import annotations

import json
import unittest
from typing import Any

from jubark_core import door
from jubark_core.desk import Desk, desk_of
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.naming.engine import RunningCase
from jubark_core.tests.door_requests import SOUND

FLORA = shipped_flora()
CASE = {"on": "2026-07-10", "areas": ["PEN"], "setting": "woodland"}
BROKEN: dict[str, Any] = {
    "rank": {"on": "2026-07-10"},
    "name": {**CASE, "observations": [{"character": "leaf.colour", "state": "green"}]},
    "explain": {**CASE, "observations": [], "zone": "30"},
    "plate": {"taxon": "acer-rubrum", "part": "root", "on": "2026-07-10"},
    "species": {"taxon": "acer-nowhere"},
    "season": {"on": "yesterday"},
    "check-visit": [],
}
LOOKS = [
    {"id": "a", "character": "leaf.arrangement", "state": "opposite"},
    {"id": "b", "character": "leaf.type", "state": "simple"},
    {"id": "c", "character": "leaf.lobes", "state": "palmate"},
]


def plain(answer: Any) -> Any:
    """As JSON gives it back."""
    return json.loads(json.dumps(answer))


class AtTheDesk(unittest.TestCase):
    def setUp(self) -> None:
        self.desk = desk_of(json.dumps({"flora": FLORA.compiled, "notes": {"acer-rubrum": "at the gate"}}))

    def told(self, operation: str, given: Any) -> Any:
        return json.loads(self.desk.answer(operation, json.dumps(given)))

    def test_every_operation_answers_as_the_door_does(self) -> None:
        for operation, given in SOUND.items():
            with self.subTest(operation):
                self.assertEqual(
                    self.told(operation, given),
                    {"answer": plain(door.run(operation, given, self.desk.flora))},
                )

    def test_what_is_refused_names_field_value_and_what_is_allowed(self) -> None:
        for operation, given in BROKEN.items():
            with self.subTest(operation):
                try:
                    door.run(operation, given, FLORA)
                except InputError as error:
                    refused = self.told(operation, given)["refused"]
                    self.assertEqual((refused["field"], refused["message"]), (error.place, str(error)))
                    self.assertEqual(refused["allowed"], error.allowed)
                else:
                    self.fail("the door takes it")
        self.assertEqual(self.told("weave", {})["refused"]["field"], "operation")

    def test_a_running_case_gains_and_loses_looks_and_changes_place(self) -> None:
        for about in (CASE, {**CASE, "areas": ["GRB"]}, CASE):
            for n in (0, 1, 3, 2, 3):
                case = {**about, "observations": LOOKS[:n]}
                for operation in ("rank", "next", "name"):
                    self.assertEqual(
                        self.told(operation, case)["answer"], plain(door.run(operation, case, FLORA))
                    )

    def test_the_next_plant_starts_with_nothing_kept_of_the_last(self) -> None:
        running = RunningCase(FLORA)
        evidence = []
        for looks in (LOOKS[:1], LOOKS, [], LOOKS[:2]):
            running.name({**CASE, "observations": looks})
            assert running._weighed is not None
            evidence.append(running._weighed.evidence)
        self.assertIs(evidence[0], evidence[1])
        self.assertIsNot(evidence[1], evidence[2])
        self.assertIs(evidence[2], evidence[3])

    def test_a_refused_look_leaves_the_case_as_it_was(self) -> None:
        case = {**CASE, "observations": LOOKS[:2]}
        before = self.told("rank", case)
        broken = {**CASE, "observations": [*LOOKS[:2], {"character": "leaf.lobes", "state": "round"}]}
        self.assertEqual(self.told("rank", broken)["refused"]["field"], "observations[2].state")
        self.assertEqual(self.told("rank", case), before)
        self.assertIn("next_looks", self.told("next", case)["answer"])

    def test_notes_of_the_installation_come_along(self) -> None:
        self.assertEqual(
            self.told("species", {"taxon": "acer-rubrum"})["answer"]["local_note"], "at the gate"
        )
        self.assertEqual(Desk(FLORA).flora.notes, {})
