"""What a tree's file holds besides: each kind needs what says most of it, and bad forms name their field."""

from __future__ import annotations

import unittest
from typing import Any

from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.recording import record_entry
from jubark_core.records.bodies import KINDS
from jubark_core.records.fields import fields_of
from jubark_core.records.file import FILE
from jubark_core.records.things import write_entry
from jubark_core.records.words import SECTIONS

ID = "0190aaaa-0000-7000-8000-000000000000"


def recorded(kind: str, **body: Any) -> dict[str, Any]:
    """The body as it is recorded."""
    entry = record_entry({"id": ID, "kind": kind, "body": body}, shipped_flora())
    return dict(write_entry(entry)["body"])


class Kinds(unittest.TestCase):
    def test_every_section_is_a_kind_whose_main_field_is_needed(self) -> None:
        self.assertEqual(set(SECTIONS), set(FILE))
        for kind in SECTIONS:
            main = fields_of(KINDS[kind].body)[KINDS[kind].main]
            self.assertTrue(main.required, kind)
            with self.subTest(kind), self.assertRaises(InputError) as caught:
                recorded(kind)
            self.assertEqual(caught.exception.place, f"entry.{kind}.{KINDS[kind].main}")

    def test_what_is_recorded_comes_back(self) -> None:
        for kind, body in (
            ("status", {"owner": "neighbour"}),
            ("constraint", {"constraint": "heritage", "since": "2020-02-01", "until": "2020-02-01"}),
            ("place", {"surface": "grate", "rooting_m3": 9.5, "overhead_m": 2.5, "salt": True}),
            ("habitat", {"feature": "loose_bark", "in_use": "in_use", "species": "bats"}),
            ("hardware", {"hardware": "cable", "state": "ingrown", "next_inspection": "2027-03-01"}),
            ("incident", {"incident": "uprooted", "harm": "property", "happened_on": "2026-01-15"}),
            ("sample", {"number": "7", "part": "roots", "sent_to": "the plant clinic"}),
        ):
            self.assertEqual(recorded(kind, **body), body)

    def test_bad_forms_name_their_field(self) -> None:
        for kind, body, place in (
            ("status", {"owner": "the king"}, "owner"),
            ("constraint", {"constraint": "heritage", "since": "2020-02-02", "until": "2020-02-01"}, "until"),
            ("place", {"surface": "grass", "rooting_m3": -1}, "rooting_m3"),
            ("habitat", {"feature": "nest", "height_m": 500}, "height_m"),
            ("hardware", {"hardware": "cable", "installed": "yesterday"}, "installed"),
            ("incident", {"incident": "fire", "harm": "some"}, "harm"),
            ("sample", {"number": " ", "part": "roots"}, "number"),
            ("sample", {"number": "7"}, "part"),
        ):
            with self.subTest(kind, **body), self.assertRaises(InputError) as caught:
                recorded(kind, **body)
            self.assertEqual(caught.exception.place, f"entry.{kind}.{place}")
