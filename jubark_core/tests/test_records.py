"""Records: read, written, upgraded and described from one table of fields.

Expected values are the committed samples: what devices sent at each version, written down once.
"""

from __future__ import annotations

import dataclasses
import json
import unittest
from collections import Counter
from pathlib import Path
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.cli.glossary import whole_glossary
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.recording import record_entry, record_visit, vocabularies
from jubark_core.records.bodies import KINDS, Readings, kind_of
from jubark_core.records.document import document
from jubark_core.records.fields import Described, Row, fields_of, load, read_as, references, renamed, write
from jubark_core.records.in_words import described_records
from jubark_core.records.quantities import QUANTITIES
from jubark_core.records.shapes import (
    Day,
    Digest,
    Flag,
    Grade,
    Id,
    Listed,
    Moment,
    Number,
    OneNumber,
    Outline,
    Several,
    Shape,
    Table,
    Text,
    Whole,
    Word,
)
from jubark_core.records.terms import in_region, terms
from jubark_core.records.things import (
    ClockConfirmation,
    Conventions,
    EntryHead,
    Plant,
    Visit,
    load_entry,
    read_clock,
    read_entry,
    read_plant,
    write_entry,
)
from jubark_core.records.upgrade import VERSION, upgrade
from jubark_core.records.words import REGIONS
from jubark_core.tests import samples
from jubark_core.tests.profiles import examples

EXAMPLES = examples(150)
FLORA = shipped_flora()
WORDS = vocabularies(FLORA)
RECORDS = (
    *(kind.body for kind in KINDS.values()),
    Plant,
    Visit,
    EntryHead,
    ClockConfirmation,
    Conventions,
)
any_json = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-(10**9), 10**9)
    | st.floats(allow_nan=False)
    | st.text(max_size=6),
    lambda part: st.lists(part, max_size=3) | st.dictionaries(st.text(max_size=5), part, max_size=3),
    max_leaves=6,
)


def recorded(item: dict[str, Any], version: int) -> dict[str, Any]:
    """What an item becomes: its canonical JSON at the current version."""
    raw = upgrade(item["kind"], item["body"], version)
    match item["kind"]:
        case "plant":
            return write(read_plant(raw))
        case "visit":
            return write(record_visit(raw, FLORA))
        case "clock":
            return write(read_clock(raw))
        case _:
            return write_entry(record_entry(raw, FLORA))


def values(shape: Shape) -> st.SearchStrategy[Any]:
    """JSON a shape takes."""
    made: dict[type, Any] = {
        Flag: st.booleans,
        Grade: lambda: st.integers(0, 4) | st.just("not_seen"),
        Day: lambda: (
            st.dates(min_value=__import__("datetime").date(1900, 1, 1)).map(str).filter(lambda d: d < "2199")
        ),
        Moment: lambda: st.just("2026-10-20T14:00:00+00:00"),
        Digest: lambda: st.just("a" * 64),
        Id: lambda: st.uuids(version=4).map(str),
    }
    if type(shape) in made:
        found: st.SearchStrategy[Any] = made[type(shape)]()
        return found
    match shape:
        case Word():
            return st.sampled_from(shape.words)
        case Listed():
            return st.sampled_from(sorted(WORDS[shape.vocabulary]))
        case Text():
            printable = st.characters(codec="utf-8", exclude_characters="\x00", exclude_categories=["Z", "C"])
            return st.text(printable, min_size=shape.least, max_size=min(shape.most, 12))
        case Number():
            return st.floats(shape.low, shape.high, allow_subnormal=False)
        case Whole():
            return st.integers(shape.low, shape.high)
        case OneNumber():
            return st.sampled_from(shape.numbers)
        case Several():
            return st.lists(values(shape.of), min_size=shape.least, max_size=min(shape.most, 3))
        case Table():
            return st.dictionaries(values(shape.keys), values(shape.of), max_size=3)
        case Row():
            return records(shape.of)
        case Outline():
            return st.just({"type": "LineString", "coordinates": [[0, 0], [1, 1]]})
    raise AssertionError(shape)


@st.composite
def records(draw: Any, cls: type) -> dict[str, Any]:
    """JSON of a record with any of its fields."""
    known = fields_of(cls)
    if getattr(cls, "exactly_one", False):
        name = draw(st.sampled_from([n for n in known if n != "value"]))
        held = known[name].holds
        least_one = Several(held.of, held.most, max(1, held.least)) if isinstance(held, Several) else held
        return {name: draw(values(least_one))}
    given_ = [n for n, d in known.items() if n != "entries" and (d.required or draw(st.booleans()))]
    return {name: draw(values(known[name].holds)) for name in given_}


class Samples(unittest.TestCase):
    def test_what_an_earlier_version_sent_becomes_what_the_current_one_writes(self) -> None:
        current = (*samples.outbox_items(VERSION), *samples.clock_items(VERSION))
        now = {item["id"]: item["body"] for item in current}
        for item in (*samples.outbox_items(1), *samples.clock_items(1)):
            with self.subTest(item["kind"], id=item["id"]):
                self.assertEqual(json.loads(json.dumps(recorded(item, 1))), now[item["id"]])

    def test_every_kind_every_quantity_and_every_way_of_reading_has_a_sample(self) -> None:
        entries = samples.entries(VERSION)
        kinds = {e["kind"] for e in entries} | {"clock_confirmed"}  # that one is made by the server
        self.assertEqual(kinds, set(KINDS))
        sizes = [e["body"] for e in entries if e["kind"] == "measurement"]
        self.assertEqual({m["quantity"] for m in sizes}, set(QUANTITIES))
        self.assertEqual({key for m in sizes for key in m["raw"]}, set(fields_of(Readings)))

    def test_what_is_written_reads_as_itself(self) -> None:
        for item in samples.outbox_items(VERSION):
            with self.subTest(item["kind"], id=item["id"]):
                self.assertEqual(json.loads(json.dumps(recorded(item, VERSION))), item["body"])

    def test_what_is_stored_loads_as_what_was_read(self) -> None:
        for raw in samples.entries(VERSION):
            read = record_entry(raw, FLORA)
            self.assertEqual(load_entry(json.loads(json.dumps(write_entry(read)))), read)

    def test_the_words_of_version_1_are_those_of_version_2(self) -> None:
        """By hand: each rename of `upgrade`, before and after."""
        for before, after in (
            (
                {"kind": "look", "body": {"character": "leaf.type", "states": ["simple"]}},
                {"kind": "observation", "body": {"character": "leaf.type", "states": ["simple"]}},
            ),
            (
                {"kind": "determination", "body": {"looks": ["a"], "not_told_from": ["b"]}},
                {"kind": "determination", "body": {"observations": ["a"], "not_separated_from": ["b"]}},
            ),
            (
                {
                    "kind": "measurement",
                    "body": {"shoots": 2, "error": 0.4, "raw": {"girths_cm": [94.2, 60]}},
                },
                {
                    "kind": "measurement",
                    "body": {"stems": 2, "error_m": 0.4, "raw": {"circumferences_cm": [94.2, 60]}},
                },
            ),
            (
                {
                    "kind": "measurement",
                    "body": {"raw": {"pole": {"top_deg": 42, "pole_deg": 7, "base_deg": -5}}},
                },
                {"kind": "measurement", "body": {"raw": {"pole": {"top": 42, "pole": 7, "base": -5}}}},
            ),
            (
                {"kind": "condition", "body": {"word": "dying"}},
                {"kind": "condition", "body": {"word": "very_poor"}},
            ),
            (
                {"kind": "defect", "body": {"defect": "heave", "part": "roots"}},
                {"kind": "defect", "body": {"defect": "root_plate_movement", "part": "roots"}},
            ),
            (
                {"kind": "photo", "body": {"defect": "old_topping"}},
                {"kind": "photo", "body": {"defect": "topped"}},
            ),
            (
                {"kind": "risk", "body": {"next_look": "2027-05-01"}},
                {"kind": "risk", "body": {"next_inspection": "2027-05-01"}},
            ),
            ({"kind": "voucher", "body": {"kept_at": "x"}}, {"kind": "voucher", "body": {"where_kept": "x"}}),
            ({"kind": "note", "retracts": "x"}, {"kind": "note", "retracts": "x"}),
        ):
            with self.subTest(before["kind"]):
                self.assertEqual(upgrade("entry", before, 1), after)
                self.assertEqual(upgrade("visit", {"entries": [before]}, 1), {"entries": [after]})
                self.assertEqual(upgrade("entry", after, 2), after)
        self.assertEqual(upgrade("plant", {"form": "patch"}, 1), {"form": "group"})
        self.assertEqual(upgrade("plant", {"form": "stem"}, 1), {"form": "tree"})

    def test_a_draft_of_version_1_becomes_entries_that_can_be_recorded(self) -> None:
        now = upgrade("draft", samples.draft(1), 1)
        self.assertEqual(now | {"version": VERSION}, samples.draft(VERSION))
        for entry in now["entries"]:
            if entry["kind"] == "risk":  # what was answered beforehand is asked anew
                entry["body"] |= {"base_seen": "partly", "crown_seen": "whole"}
            record_entry(entry, FLORA)
        self.assertEqual(upgrade("draft", {}, 1), {"entries": []})

    @EXAMPLES
    @given(any_json, st.sampled_from([*samples.draft(1)]))
    def test_a_spoilt_draft_is_refused_or_taken_up(self, by: Any, key: str) -> None:
        try:
            found = upgrade("draft", samples.draft(1) | {key: by}, 1)
        except InputError as error:
            self.assertEqual(error.place, "record")
        else:
            self.assertIsInstance(found["entries"], list)

    def test_an_unknown_version_or_thing_is_refused(self) -> None:
        for version in (0, VERSION + 1, True, "1", None, 1.0):
            with self.subTest(version=version), self.assertRaises(InputError) as caught:
                upgrade("entry", {}, version)
            self.assertEqual(caught.exception.place, "schema")
        self.assertRaises(InputError, upgrade, "tree", {}, 1)

    @EXAMPLES
    @given(st.sampled_from(["plant", "visit", "entry", "correction", "clock"]), any_json)
    def test_upgrading_never_fails_and_never_invents(self, thing: str, raw: Any) -> None:
        found = upgrade(thing, raw, 1)
        if isinstance(raw, dict):
            self.assertEqual(len(found), len(raw))
        else:
            self.assertEqual(found, raw)


class Reading(unittest.TestCase):
    @EXAMPLES
    @given(st.data(), st.sampled_from(RECORDS))
    def test_whatever_the_description_allows_is_read_and_written_back(self, data: Any, cls: type) -> None:
        raw = data.draw(records(cls))
        try:
            read = read_as(cls, "", raw, WORDS)
        except InputError as error:  # only what fields, or items of a list, say together
            self.assertTrue(hasattr(cls, "check") or cls is Conventions, f"{cls.__name__}: {error}")
            return
        text = json.loads(json.dumps(write(read)))
        self.assertEqual(load(cls, text), read)
        self.assertEqual(read_as(cls, "", text, WORDS), read)
        self.assertEqual(write(read_as(cls, "", text, WORDS)), write(read))

    @EXAMPLES
    @given(st.data(), st.sampled_from(RECORDS))
    def test_a_spoilt_field_is_refused_by_its_name_or_is_sound(self, data: Any, cls: type) -> None:
        raw = data.draw(records(cls))
        name = data.draw(st.sampled_from([*raw, "nobody_knows"]))
        by = data.draw(any_json)
        try:
            read_as(cls, "at", {**raw, name: by}, WORDS)
        except InputError as error:
            named = error.place.removeprefix("at.").replace("[", ".").split(".")[0]
            together = fields_of(cls) if hasattr(cls, "check") else ()
            self.assertIn(named, (name, *together))
            self.assertTrue(error.allowed)
        else:
            self.assertNotEqual(name, "nobody_knows")

    def test_a_bad_form_of_each_shape_is_refused_with_place_and_what_is_allowed(self) -> None:
        for kind, body, place in (
            ("observation", {"character": "leaf.nonsense", "states": ["x"]}, "entry.observation.character"),
            (
                "observation",
                {"character": "leaf.arrangement", "states": ["sideways"]},
                "entry.observation.states[0]",
            ),
            ("observation", {"character": "leaf.arrangement"}, "entry.observation.states"),
            ("measurement", {"quantity": "girth", "raw": {"value": 1}}, "entry.measurement.quantity"),
            ("measurement", {"quantity": "dbh_cm"}, "entry.measurement.raw"),
            ("measurement", {"quantity": "dbh_cm", "raw": {}}, "entry.measurement.raw"),
            (
                "measurement",
                {"quantity": "dbh_cm", "raw": {"value": 3, "diameters_cm": [3]}},
                "entry.measurement.raw",
            ),
            (
                "measurement",
                {"quantity": "dbh_cm", "raw": {"callipers_cm": [[3]]}},
                "entry.measurement.raw.callipers_cm[0]",
            ),
            (
                "measurement",
                {"quantity": "dbh_cm", "raw": {"value": 30}, "value": 31},
                "entry.measurement.value",
            ),
            (
                "measurement",
                {"quantity": "height_m", "raw": {"angles": {"distance_m": 20, "top": 45}}},
                "entry.measurement.raw.angles.base",
            ),
            (
                "measurement",
                {"quantity": "height_m", "raw": {"radii_m": [3, 4]}},
                "entry.measurement.raw.radii_m",
            ),
            ("condition", {"leafless": 1, "word": "fair"}, "entry.condition.leafless"),
            ("condition", {}, "entry.condition.word"),
            ("condition", {"parts": {"trunk": 5}}, "entry.condition.parts.trunk"),
            ("defect", {"defect": "cavity", "part": "bark"}, "entry.defect.part"),
            (
                "defect",
                {"defect": "cavity", "part": "base", "extent_percent": 30.5},
                "entry.defect.extent_percent",
            ),
            (
                "risk",
                {"rows": [], "years": 1, "level": "basic", "base_seen": True, "crown_seen": True},
                "entry.risk.rows",
            ),
            ("photo", {"sha256": "A" * 64, "bytes": 1}, "entry.photo.sha256"),
            ("note", {"text": "  "}, "entry.note.text"),
            ("note", {"text": None}, "entry.note.text"),
            ("note", [], "entry.note"),
            ("life", {"state": "asleep"}, "entry.life.state"),
            ("life", {"state": "alive", "": 1}, "entry.life.an empty key"),
            ("leaf", {}, "entry.kind"),
        ):
            with self.subTest(kind, body=body), self.assertRaises(InputError) as caught:
                record_entry({"id": samples.BLOCK, "kind": kind, "body": body}, FLORA)
            self.assertEqual(caught.exception.place, place)

    def test_a_plant_has_a_place(self) -> None:
        sound = {"id": samples.BLOCK, "block": samples.BLOCK, "recorded_at": "2026-10-20T14:00:00Z"}
        shape = {"type": "Polygon", "coordinates": [[[0, 0], [1, 0], [1, 1], [0, 0]]]}
        for more, place in (
            ({}, "lon"),
            ({"lon": 1}, "lat"),
            ({"lat": 1}, "lon"),
            ({"form": "group"}, "outline"),
            ({"form": "group", "outline": {"type": "Point", "coordinates": [0, 0]}}, "outline.type"),
            ({"lon": 1, "lat": 1, "outline": shape}, "outline"),
            ({"from_plant": samples.BLOCK, "distance_m": 3}, "bearing_deg"),
            ({"from_plant": samples.BLOCK, "bearing_deg": 3}, "distance_m"),
        ):
            with self.subTest(more), self.assertRaises(InputError) as caught:
                read_plant(sound | more)
            self.assertEqual(caught.exception.place, place)
        self.assertEqual(read_plant(sound | {"lon": 1, "lat": 2}).place, (1.0, 2.0))
        self.assertIsNone(read_plant(sound | {"form": "group", "outline": shape}).place)

    def test_a_zero_that_was_measured_is_written_and_a_default_is_not(self) -> None:
        raw = {"id": samples.BLOCK, "kind": "measurement"}
        body = {"quantity": "crown_base_m", "raw": {"value": 0}, "method": "taped"}
        written = write_entry(record_entry(raw | {"body": body}, FLORA))["body"]
        self.assertEqual(written["value"], 0.0)
        self.assertEqual(written["raw"], {"value": 0.0})
        self.assertNotIn("method", written)

    def test_a_withdrawal_has_no_body(self) -> None:
        raw = {"id": samples.BLOCK, "kind": "note", "retracts": samples.BLOCK, "body": {"anything": 1}}
        self.assertIsNone(read_entry(raw, WORDS).body)


class References(unittest.TestCase):
    def test_ids_that_name_something_else_are_declared(self) -> None:
        declared = {
            (cls.__name__, name): held.to
            for cls in RECORDS
            for name, what in fields_of(cls).items()
            if isinstance(held := getattr(what.holds, "of", what.holds), Id) and held.to
        }
        self.assertEqual(
            declared,
            {
                ("Determination", "observations"): "entry",
                ("EntryHead", "replaces"): "entry",
                ("EntryHead", "retracts"): "entry",
                ("Photo", "shows"): "entry",
                ("Status", "contact"): "contact",
                ("Planting", "vacant_place"): "plant",
                ("Enquiry", "contact"): "contact",
                ("Work", "contractor"): "contact",
                ("Work", "emergency_lead"): "member",
                ("Clearance", "member"): "member",
                ("Clearance", "contact"): "contact",
                ("Plant", "block"): "block",
                ("Plant", "from_plant"): "plant",
                ("Plant", "merged_into"): "plant",
                ("Visit", "plant"): "plant",
                ("ClockConfirmation", "visit"): "visit",
            },
        )

    def test_they_are_found_and_renamed(self) -> None:
        raw = next(e["body"] for e in samples.entries(VERSION) if e["body"].get("observations"))
        body = KINDS["determination"].body
        read = read_as(body, "", raw, WORDS)
        self.assertEqual([str(i) for _, _, i in references(read)], raw["observations"])
        self.assertEqual(
            renamed(body, raw, lambda old: "new " + old)["observations"], ["new " + raw["observations"][0]]
        )
        self.assertEqual(renamed(body, raw, str), raw)


class Description(unittest.TestCase):
    def test_every_field_has_a_label_and_a_meaning_and_no_two_of_a_record_the_same_label(self) -> None:
        for cls in (*RECORDS, *inner_records()):
            known = fields_of(cls)
            labels = Counter(what.label for what in known.values())
            self.assertEqual([label for label, n in labels.items() if n > 1], [], cls.__name__)
            for name, what in known.items():
                with self.subTest(cls.__name__, field=name):
                    self.assertTrue(what.label[0].isupper() or what.label[0].isdigit())
                    self.assertTrue(what.meaning.endswith("."))
                    self.assertLessEqual(what.since, VERSION)

    def test_the_document_is_what_the_table_says(self) -> None:
        committed = Path(__file__).parents[2] / "docs" / "records.md"
        self.assertEqual(document(), committed.read_text(encoding="utf-8"), "run ./jubark schema and commit")

    def test_the_glossary_is_what_the_terms_say(self) -> None:
        committed = Path(__file__).parents[2] / "docs" / "glossary.md"
        self.assertEqual(
            whole_glossary(), committed.read_text(encoding="utf-8"), "run ./jubark schema and commit"
        )

    def test_a_term_is_a_sentence_with_its_unit_and_its_words_by_region(self) -> None:
        found = {term["id"]: term for term in terms()}
        self.assertEqual(len(found), len(terms()))
        self.assertEqual(len({term["label"] for term in terms()}), len(terms()), "a term twice")
        for term in found.values():
            with self.subTest(term["id"]):
                self.assertRegex(term["meaning"], r"^[A-Z].*\.$")
                self.assertLessEqual(set(term.get("regions", {})), set(REGIONS))
        # terms of ANSI A300 and ISA (US), of BS 3998 and BS 5837 (UK), of AS 4373 and AS 4970 (AU)
        for name, us, uk, au in (
            ("root_protection_area", "Critical root zone", "Root protection area", "Tree protection zone"),
            ("circumference", "Circumference", "Circumference (girth)", "Circumference"),
            ("raising", "Raising", "Crown lifting", "Crown lifting"),
            ("deadwooding", "Crown cleaning", "Deadwooding", "Deadwooding"),
            ("formative_pruning", "Structural pruning", "Formative pruning", "Formative pruning"),
            ("topped", "Topped", "Topped", "Lopped"),
            ("habitat_tree", "Snag", "Monolith", "Habitat tree"),
            ("notifiable", "Reportable", "Notifiable", "Notifiable"),
            ("biosecurity_status", "Sanitation status", "Biosecurity status", "Biosecurity status"),
            ("service_request", "Service request", "Enquiry", "Enquiry"),
            (
                "underground_utilities",
                "Underground utilities",
                "Underground services",
                "Underground services",
            ),
            ("vacant_planting_site", "Vacant planting site", "Vacant tree pit", "Vacant planting site"),
            ("caliper", "Caliper", "Stem girth", "Stem girth"),
        ):
            self.assertEqual([in_region(found[name], r) for r in ("us", "uk", "au")], [us, uk, au], name)

    def test_screens_get_every_kind_and_quantity_in_json(self) -> None:
        told = json.loads(json.dumps(described_records()))
        self.assertEqual([k["id"] for k in told["kinds"]], list(KINDS))
        self.assertEqual([q["id"] for q in told["quantities"]], list(QUANTITIES))
        fields = {f["id"]: f for k in told["kinds"] if k["id"] == "measurement" for f in k["fields"]}
        self.assertEqual(
            [f["id"] for f in fields["raw"]["fields"] if f["type"] == "row"],
            ["angles", "sine", "two_stations", "leaning", "stick", "pole", "core"],
        )
        self.assertTrue(fields["value"]["computed"])

    def test_each_body_knows_its_kind(self) -> None:
        for raw in samples.entries(VERSION):
            body = record_entry(raw, FLORA).body
            assert body is not None
            self.assertEqual(kind_of(body), raw["kind"])

    def test_defaults_of_the_class_and_of_the_description_agree(self) -> None:
        for cls in (*RECORDS, *inner_records()):
            for f in dataclasses.fields(cls):
                what: Described = f.metadata["described"]
                made = f.default_factory() if f.default_factory is not dataclasses.MISSING else f.default
                self.assertEqual(made, what.default, f"{cls.__name__}.{f.name}")


def inner_records() -> list[type]:
    """Records inside records."""
    held = (what.holds for cls in (*RECORDS, Readings) for what in fields_of(cls).values())
    return [
        shape.of
        for h in held
        if isinstance(shape := getattr(h, "of", h) if isinstance(h, Several) else h, Row)
    ]
