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
WHOLE = {"base_visible": "all_round", "crown_visible": "whole"}
HIDDEN = dict.fromkeys(WHOLE, "not_visible")
BACKWARDS = {"began_at": "2026-05-04T10:00:00Z", "ended_at": "2026-05-04T09:00:00Z"}


def recorded(kind: str, **body: Any) -> dict[str, Any]:
    """The body as it is recorded."""
    entry = record_entry({"id": ID, "kind": kind, "body": body}, shipped_flora())
    return dict(write_entry(entry)["body"])


ENDS_FIRST = {"begins": "2026-11-02", "ends": "2026-11-01"}


class Kinds(unittest.TestCase):
    def test_every_section_is_a_kind_whose_main_field_is_needed(self) -> None:
        self.assertEqual(set(SECTIONS), {*FILE, "inspection"})
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
            ("climber", {"climber": "hedera-helix", "reaches": "crown", "hides": True}),
            ("climber", {"climber": "not_known", "cut_on": "2026-11-02"}),
            ("headroom", {"over": "road", "clear_m": 0.0}),
            ("works", {"works": "trench", "distance_m": 0.0, "begins": "2026-11-02", "ends": "2026-11-02"}),
            ("hardware", {"hardware": "cable", "state": "ingrown", "next_inspection": "2027-03-01"}),
            ("incident", {"incident": "uprooted", "harm": "property", "happened_on": "2026-01-15"}),
            ("sample", {"number": "7", "part": "roots", "sent_to": "the plant clinic"}),
            ("planting", {"planted_on": "2026-03-02", "stock": "bare_root", "ties_until": "2028-03-02"}),
            ("photo_point", {"name": "from the gate", "lat": 40.5, "lon": -79.3, "bearing_deg": 270.0}),
            ("enquiry", {"about": "shade_or_view", "contact": ID, "answer_by": "2026-04-01"}),
            ("inspection", {"level": "limited_visual", "walked": True, "walk": "Mill Lane"}),
            ("inspection", {"level": "basic", **WHOLE, "no_defect": True}),
            ("inspection", {"level": "basic", "no_access": "locked yard"}),
            ("storm", {"under_it": ["wires", "person"]}),
            (
                "storm",
                {"under_it": ["neither"], "lies": "hung_up", "blocks": "path", "next_step": "clear_now"},
            ),
        ):
            self.assertEqual(recorded(kind, **body), body)

    def test_bad_forms_name_their_field(self) -> None:
        for kind, body, place in (
            ("status", {"owner": "the king"}, "owner"),
            ("constraint", {"constraint": "heritage", "since": "2020-02-02", "until": "2020-02-01"}, "until"),
            ("place", {"surface": "grass", "rooting_m3": -1}, "rooting_m3"),
            ("habitat", {"feature": "nest", "height_m": 500}, "height_m"),
            ("climber", {"climber": "quercus-alba"}, "climber"),
            ("headroom", {"over": "road"}, "clear_m"),
            ("headroom", {"over": "river", "clear_m": 3}, "over"),
            ("works", {"works": "trench", "distance_m": 201}, "distance_m"),
            ("works", {"works": "trench", "distance_m": 2, **ENDS_FIRST}, "ends"),
            ("hardware", {"hardware": "cable", "installed": "yesterday"}, "installed"),
            ("incident", {"incident": "fire", "harm": "some"}, "harm"),
            ("sample", {"number": " ", "part": "roots"}, "number"),
            ("sample", {"number": "7"}, "part"),
            ("planting", {"planted_on": "2026-03-02", "ties_until": "2026-03-01"}, "ties_until"),
            ("photo_point", {"name": "from the gate", "lat": 40.5}, "lon"),
            ("photo_point", {"name": "from the gate", "bearing_deg": 361}, "bearing_deg"),
            ("enquiry", {"about": "shade_or_view", "contact": "Mr. Oak"}, "contact"),
            ("inspection", {"level": "thorough"}, "level"),
            ("inspection", {"level": "basic", "base_visible": "all_round"}, "crown_visible"),
            ("inspection", {"level": "advanced", "crown_visible": "whole"}, "base_visible"),
            ("inspection", {"level": "basic", **WHOLE, "walked": True}, "level"),
            ("inspection", {"level": "limited_visual", "no_defect": True}, "no_defect"),
            ("inspection", {"level": "basic", **HIDDEN, "no_defect": True}, "no_defect"),
            ("inspection", {"level": "limited_visual", "walked": True, **BACKWARDS}, "ended_at"),
            ("storm", {}, "under_it"),
            ("storm", {"under_it": ["neither"], "lies": "fallen", "blocks": "road"}, "next_step"),
            ("storm", {"under_it": ["line_near"], "next_step": "clear_now"}, "lies"),
            ("storm", {"under_it": ["wires", "neither"]}, "under_it"),
            ("storm", {"under_it": ["wires", "wires"]}, "under_it"),
            ("storm", {"under_it": []}, "under_it"),
            ("inspection", {"level": "basic", **WHOLE, "no_access": "locked yard"}, "base_visible"),
            ("inspection", {"level": "basic", "no_access": "locked yard", "no_defect": True}, "no_defect"),
            ("clearance", {"check_closed": "C4", "what": "operator", "by": "x", "reference": "7"}, "until"),
        ):
            with self.subTest(kind, **body), self.assertRaises(InputError) as caught:
                recorded(kind, **body)
            self.assertEqual(caught.exception.place, f"entry.{kind}.{place}")
