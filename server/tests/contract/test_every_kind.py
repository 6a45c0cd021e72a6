"""Every kind of entry through every door: saved, corrected, withdrawn, out and in by files, upgraded.

The samples are what devices sent at each record version; the bodies of the current one are what must be
stored.
"""

from __future__ import annotations

import json
import uuid
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import TestCase

from apps.organisations.services.contacts import make_contact
from apps.plants.models import Entry
from apps.plants.tests.factories import (
    SmallSite,
    correction_item,
    new_id,
    open_test_block,
    send,
    signed_in,
    small_site,
    take_samples,
)
from jubark_core.records.bodies import KINDS
from jubark_core.records.upgrade import VERSION, upgrade
from jubark_core.tests import samples

# what an older version recorded otherwise has ids of its own
NOW = {e["id"]: upgrade("entry", e, VERSION - 1) for e in samples.entries(VERSION - 1)} | {
    e["id"]: e for e in samples.entries(VERSION)
}
STEP = {"job": "10000000-0000-4000-8000-000000000777", "rule": "R40", "step": "accepted"}
LOOK = {"check_closed": "C2a", "what": "nest_look", "result": "none"}
Bodies = dict[str, tuple[str, dict[str, Any]]]


def stored(ids: Any) -> Bodies:
    """Entry id -> kind and body as stored."""
    rows = Entry.objects.filter(pk__in=list(ids)).values_list("id", "kind", "body", "version")
    return {str(pk): (kind, body) for pk, kind, body, version in rows if version == VERSION}


def expected(ids: Any) -> Bodies:
    return {pk: (NOW[pk]["kind"], NOW[pk]["body"]) for pk in ids}


class EveryKind(TestCase):
    """Each test goes over every entry of the samples; a test of the core sees that they hold every kind."""

    def setUp(self) -> None:
        self.at = small_site()

    def take(self, version: int) -> set[str]:
        take_samples(self.at, version)
        return {e["id"] for e in samples.entries(version)}

    def test_saved_it_is_what_the_core_writes(self) -> None:
        ids = self.take(VERSION)
        self.assertEqual(stored(ids), expected(ids))
        self.assertEqual({NOW[pk]["kind"] for pk in ids} | {"clock_confirmed"}, set(KINDS))

    def test_sent_by_an_older_app_it_is_stored_as_the_current_version_has_it(self) -> None:
        for version in samples.VERSIONS[:-1]:
            with self.subTest(version=version), transaction.atomic():
                ids = self.take(version)
                self.assertEqual(stored(ids), expected(ids))
                transaction.set_rollback(True)  # the next version's items have the same ids

    def test_sent_again_at_any_version_nothing_changes(self) -> None:
        self.take(1)
        again = send(signed_in(self.at.surveyor), *samples.outbox_items(1, str(self.at.block.id)))
        self.assertEqual({a["answer"] for a in again}, {"already"})

    def test_stored_at_an_older_version_it_reads_as_the_current_one(self) -> None:
        """As in a database that was upgraded: the rows keep the version they were written at."""
        self.take(VERSION)
        old = {e["id"]: e for e in samples.entries(1)}
        visit = Entry.objects.exclude(kind="photo").first()
        assert visit is not None
        for raw in old.values():
            Entry.objects.create(
                id=uuid.uuid5(uuid.NAMESPACE_OID, raw["id"]),
                organisation=self.at.organisation,
                plant_id=visit.plant_id,
                visit_id=visit.visit_id,
                kind=raw["kind"],
                version=1,
                body=raw["body"],
                recorded_at=visit.recorded_at,
            )
        shown = self.shown(str(visit.plant_id))
        for pk, raw in old.items():
            entry = shown[str(uuid.uuid5(uuid.NAMESPACE_OID, pk))]
            with self.subTest(raw["kind"], id=pk):
                computed = ("value", "stems", "word", "health", "structure", "rating", "residual", "error_m")
                given = {k: v for k, v in NOW[pk]["body"].items() if k in entry["body"] and k not in computed}
                self.assertEqual(
                    {k: v for k, v in entry["body"].items() if k in given and k != "rows"},
                    {k: v for k, v in given.items() if k != "rows"},
                )
                self.assertEqual(entry["kind"], NOW[pk]["kind"])

    def test_corrected_with_the_whole_body_nothing_is_lost(self) -> None:
        ids = self.take(VERSION)
        standing = {pk for pk, e in self.every().items() if e["stands"]} & ids
        client = signed_in(self.at.steward)
        corrected = {
            pk: correction_item(NOW[pk]["kind"], replaces=pk, **NOW[pk]["body"]) for pk in sorted(standing)
        }
        for pk, item in corrected.items():
            with self.subTest(NOW[pk]["kind"], id=pk):
                self.assertEqual(send(client, item)[0]["answer"], "accepted")
                self.assertEqual(stored([item["id"]])[item["id"]], expected([pk])[pk])
        every = self.every()
        self.assertEqual([pk for pk in corrected if every[pk]["stands"]], [])
        self.assertEqual([i["id"] for i in corrected.values() if not every[i["id"]]["stands"]], [])

    def test_withdrawn_it_no_longer_counts_and_is_still_shown(self) -> None:
        ids = self.take(VERSION)
        standing = {pk for pk, e in self.every().items() if e["stands"]} & ids
        client = signed_in(self.at.steward)
        for pk in sorted(standing):
            item = correction_item(NOW[pk]["kind"], retracts=pk)
            self.assertEqual(send(client, item)[0]["answer"], "accepted", NOW[pk])
        every = self.every()
        self.assertEqual([pk for pk in ids if every[pk]["stands"]], [])
        self.assertEqual({pk: every[pk]["body"] for pk in ids}, {pk: NOW[pk]["body"] for pk in ids})

    def test_out_and_in_by_both_formats_it_is_the_same(self) -> None:
        ids = self.take(VERSION)
        for ending in ("csv", "geojson"):
            with self.subTest(ending):
                block = open_test_block(self.at.site, ending)
                self.bring_in(ending, self.export(ending), block.id)
                self.assertEqual(self.named_anew(block.id, ids), expected(ids))

    def test_a_file_of_an_older_version_comes_in_as_the_current_one(self) -> None:
        for version in samples.VERSIONS[:-1]:
            for ending in ("csv", "geojson"):
                with self.subTest(ending, version=version):
                    at = small_site(f"{ending} of version {version}")
                    block = open_test_block(at.site, "Empty")
                    self.take(VERSION) if not Entry.objects.exists() else None
                    self.bring_in(ending, samples.block_file(version, ending), block.id, at)
                    ids = {e["id"] for e in samples.entries(version)}
                    self.assertEqual(self.named_anew(block.id, ids), expected(ids))

    def shown(self, plant: str) -> dict[str, Any]:
        answer = signed_in(self.at.viewer).get(f"/api/plants/{plant}/").json()
        return {e["id"]: e for v in answer["visits"] for e in v["entries"]}

    def every(self) -> dict[str, Any]:
        plants = Entry.objects.values_list("plant_id", flat=True).distinct()
        return {pk: e for plant in plants for pk, e in self.shown(str(plant)).items()}

    def export(self, ending: str) -> bytes:
        address = f"/api/blocks/{self.at.block.id}/export.{ending}"
        return b"".join(signed_in(self.at.viewer).get(address).streaming_content)

    def bring_in(self, ending: str, data: bytes, block: uuid.UUID, at: SmallSite | None = None) -> None:
        client = signed_in((at or self.at).steward)
        given = {"block": str(block), "file": SimpleUploadedFile(f"block.{ending}", data)}
        batch = client.post("/api/imports/", given, format="multipart").json()
        self.assertEqual(batch["bad"], [])
        answer = client.post(f"/api/imports/{batch['id']}/", {"decision": "take"})
        self.assertEqual(answer.status_code, 200, answer.content)

    def named_anew(self, block: uuid.UUID, ids: set[str]) -> Bodies:
        """What a file made of entries, under the ids they had in it; refs to others renamed back too."""
        text = {str(uuid.uuid5(block, pk)): pk for pk in ids}
        found = stored(text)
        back = json.dumps({text[new]: value for new, value in found.items()})
        for new, old in text.items():
            back = back.replace(new, old)
        return {pk: (kind, body) for pk, (kind, body) in json.loads(back).items()}


class References(TestCase):
    """Every field that names something else, given something of another organisation."""

    def test_a_foreign_id_is_as_good_as_unknown(self) -> None:
        at, other = small_site(), small_site("Other organisation")
        own, foreign = take_ids(at), take_ids(other)
        client = signed_in(at.surveyor)
        note = {"id": new_id(), "kind": "note", "body": {"text": "x"}}
        visit = {"local_date": "2026-10-20", "observed_at": "2026-10-20T14:00:00+00:00"}
        tree = {"block": str(at.block.id), "recorded_at": "2026-10-20T14:00:00+00:00"}
        name = {"entered": "Acer rubrum", "observations": [foreign["observation"]]}
        picture = {"sha256": "a" * 64, "bytes": 1, "shows": foreign["observation"]}
        stranger = make_contact(actor=other.steward, given={"name": "A neighbour"})

        def of_contact(kind: str, **body: str) -> dict[str, Any]:
            return {"id": new_id(), "kind": kind, "body": {**body, "contact": str(stranger.id)}}

        def of_person(kind: str, field: str, **body: Any) -> dict[str, Any]:
            foreign_person = other.steward if field in ("member", "emergency_lead") else stranger
            return {"id": new_id(), "kind": kind, "body": {**body, field: str(foreign_person.id)}}

        asked: dict[tuple[str, str], tuple[str, dict[str, Any], str]] = {
            ("Plant", "block"): ("plant", {**tree, "block": foreign["block"], "lon": 1, "lat": 1}, "refused"),
            ("Plant", "from_plant"): (
                "plant",
                {**tree, "from_plant": foreign["plant"], "bearing_deg": 1, "distance_m": 1},
                "waiting",
            ),
            ("Visit", "plant"): ("visit", {**visit, "plant": foreign["plant"], "entries": [note]}, "waiting"),
            ("Determination", "observations"): (
                "visit",
                {
                    **visit,
                    "plant": own["plant"],
                    "entries": [{"id": new_id(), "kind": "determination", "body": name}],
                },
                "waiting",
            ),
            ("Photo", "shows"): (
                "visit",
                {
                    **visit,
                    "plant": own["plant"],
                    "entries": [{"id": new_id(), "kind": "photo", "body": picture}],
                },
                "waiting",
            ),
            ("Planting", "vacant_place"): (
                "visit",
                {
                    **visit,
                    "plant": own["plant"],
                    "entries": [
                        {
                            "id": new_id(),
                            "kind": "planting",
                            "body": {"planted_on": "2026-03-01", "vacant_place": foreign["plant"]},
                        }
                    ],
                },
                "waiting",
            ),
            ("Status", "contact"): (
                "visit",
                {**visit, "plant": own["plant"], "entries": [of_contact("status", owner="neighbour")]},
                "refused",
            ),
            ("Enquiry", "contact"): (
                "visit",
                {**visit, "plant": own["plant"], "entries": [of_contact("enquiry", about="other")]},
                "refused",
            ),
            **{
                (record, field): (
                    "visit",
                    {**visit, "plant": own["plant"], "entries": [of_person(kind, field, **more)]},
                    "refused",
                )
                for record, field, kind, more in (
                    ("Work", "contractor", "work", STEP),
                    ("Work", "emergency_lead", "work", {**STEP, "emergency_reason": "x"}),
                    ("Clearance", "member", "clearance", LOOK),
                    ("Clearance", "contact", "clearance", LOOK),
                )
            },
            ("EntryHead", "replaces"): (
                "correction",
                {
                    "kind": "note",
                    "body": {"text": "x"},
                    "replaces": foreign["note"],
                    "recorded_at": tree["recorded_at"],
                },
                "waiting",
            ),
            ("EntryHead", "retracts"): (
                "correction",
                {"kind": "note", "retracts": foreign["note"], "recorded_at": tree["recorded_at"]},
                "waiting",
            ),
            ("Plant", "merged_into"): (
                "plant",
                {**tree, "lon": -79.3, "lat": 40.5, "merged_into": foreign["plant"]},
                "refused",
            ),
            ("ClockConfirmation", "visit"): (
                "clock",
                {"visit": foreign["visit"], "recorded_at": tree["recorded_at"]},
                "waiting",
            ),
        }
        for (record, field), (kind, body, answer) in asked.items():
            with self.subTest(record, field=field):
                item = {"id": new_id(), "kind": kind, "schema": VERSION}
                told = send(client, {**item, "body": {**body, "id": item["id"]}})[0]
                self.assertEqual(told["answer"], answer, told)
        self.assertEqual(set(asked), declared_references())

    def test_an_observation_of_another_plant_is_not_what_a_name_rests_on(self) -> None:
        at = small_site()
        own = take_ids(at)
        plant = {"id": new_id(), "kind": "plant", "schema": VERSION}
        plant["body"] = {
            "id": plant["id"],
            "block": str(at.block.id),
            "lon": -79.3,
            "lat": 40.5,
            "recorded_at": "2026-10-20T14:00:00+00:00",
        }
        name = {"entered": "Acer rubrum", "observations": [own["observation"]]}
        visit = {"id": new_id(), "kind": "visit", "schema": VERSION}
        visit["body"] = {
            "id": visit["id"],
            "plant": plant["id"],
            "local_date": "2026-10-20",
            "observed_at": "2026-10-20T14:00:00+00:00",
            "entries": [{"id": new_id(), "kind": "determination", "body": name}],
        }
        answers = send(signed_in(at.surveyor), plant, visit)
        self.assertEqual([a["answer"] for a in answers], ["accepted", "waiting"])
        self.assertEqual(answers[1]["on"], own["observation"])


def take_ids(at: SmallSite) -> dict[str, str]:
    """A plant of the site with one visit, an observation and a note: their ids."""
    ids = {name: new_id() for name in ("plant", "visit", "observation", "note")} | {"block": str(at.block.id)}
    plant = {"id": ids["plant"], "block": ids["block"], "lon": -79.3, "lat": 40.5}
    look = {"character": "leaf.type", "states": ["simple"]}
    visit = {
        "id": ids["visit"],
        "plant": ids["plant"],
        "local_date": "2026-10-20",
        "observed_at": "2026-10-20T14:00:00+00:00",
        "entries": [
            {"id": ids["observation"], "kind": "observation", "body": look},
            {"id": ids["note"], "kind": "note", "body": {"text": "x"}},
        ],
    }
    answers = send(
        signed_in(at.surveyor),
        {
            "id": ids["plant"],
            "kind": "plant",
            "schema": VERSION,
            "body": {**plant, "recorded_at": visit["observed_at"]},
        },
        {"id": ids["visit"], "kind": "visit", "schema": VERSION, "body": visit},
    )
    assert {a["answer"] for a in answers} == {"accepted"}, answers
    return ids


def declared_references() -> set[tuple[str, str]]:
    """(record, field) of every id that names something else."""
    from jubark_core.records.fields import fields_of
    from jubark_core.records.shapes import Id, Several
    from jubark_core.records.things import ClockConfirmation, EntryHead, Plant, Visit

    records = (*(kind.body for kind in KINDS.values()), Plant, Visit, EntryHead, ClockConfirmation)
    found = set()
    for cls in records:
        for name, what in fields_of(cls).items():
            held = what.holds.of if isinstance(what.holds, Several) else what.holds
            if isinstance(held, Id) and held.to:
                found.add((cls.__name__, name))
    return found
