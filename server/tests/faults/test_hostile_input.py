"""F1 to F4: what no database and no reader can digest is refused by name, and holds up nothing else."""

from __future__ import annotations

import json
from typing import Any
from unittest.mock import patch

from django.test import TestCase

from apps.plants.inventory import cursor_after
from apps.plants.models import Entry, Plant, Received, Visit
from apps.plants.services import receive_outbox as outbox
from apps.plants.tests.factories import (
    a_plant,
    correction_item,
    dbh,
    entry,
    new_id,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)

RING = [[-79.3, 40.5], [-79.2999, 40.5], [-79.2999, 40.5001], [-79.3, 40.5]]
BOWTIE = [[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]


def nested(depth: int) -> Any:
    found: Any = [0.0, 0.0]
    for _ in range(depth):
        found = [found]
    return found


class Outbox(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        cls.plant = a_plant(cls.at)

    def sent_raw(self, *items: dict[str, Any]) -> list[dict[str, Any]]:
        """Answers to items written so that 1e999 and half surrogates go over the wire."""
        body = json.dumps({"items": list(items)}).replace("Infinity", "1e999")
        answer = signed_in(self.at.surveyor).post("/api/outbox/", body, content_type="application/json")
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()["answers"]  # type: ignore[no-any-return]

    def test_f1_one_item_that_cannot_be_digested_holds_up_nothing(self) -> None:
        patch_of = {"form": "group", "lon": -79.3, "lat": 40.5}
        hostile = (
            visit_item(self.plant, entry("note", text="zero \x00 byte")),
            visit_item(self.plant, entry("note", text="half \ud800 pair")),
            visit_item(self.plant, {**entry("note", text="a key"), "\x00": 1}),
            visit_item(self.plant, {**entry("note", text="a key"), "\udfff": 1}),
            visit_item(self.plant, entry("measurement", quantity="dbh_cm", raw={"value": float("inf")})),
            visit_item(self.plant, entry("measurement", quantity="dbh_cm", raw={"core": nested(300)})),
            visit_item(self.plant, observed_at="9999-12-31T23:59:59-12:00"),
            plant_item(self.at.block, **patch_of, outline={"type": "Polygon", "coordinates": nested(400)}),
            plant_item(self.at.block, **patch_of, outline={"type": "Polygon", "coordinates": [RING[:3]]}),
            plant_item(self.at.block, lon=float("inf")),
            {**plant_item(self.at.block), "id": "\x00"},
            {**plant_item(self.at.block), "kind": ["plant"]},
        )
        for bad in hostile:
            with self.subTest(bad=str(bad)[:90]):
                before = (Plant.objects.count(), Visit.objects.count(), Received.objects.count())
                good = visit_item(self.plant, entry("note", text="sound"))
                first, second = self.sent_raw(bad, good)
                self.assertEqual((first["answer"], first["code"]), ("refused", "bad_input"), first)
                self.assertTrue(first["field"] and first["allowed"])
                self.assertEqual(second["answer"], "accepted")
                self.assertEqual(
                    (Plant.objects.count(), Visit.objects.count(), Received.objects.count()),
                    (before[0], before[1] + 1, before[2] + 1),
                )

    def test_f1_an_item_the_server_fails_on_is_refused_and_logged_and_the_rest_is_taken(self) -> None:
        bad, good = plant_item(self.at.block), visit_item(self.plant, entry("note", text="sound"))
        with (
            patch.object(outbox, "record_plant", side_effect=RuntimeError("a bug")),
            self.assertLogs(outbox.logger, "ERROR") as logged,
        ):
            first, second = send(signed_in(self.at.surveyor), bad, good)
        self.assertEqual(
            (first["answer"], first["code"], second["answer"]), ("refused", "server_error", "accepted")
        )
        self.assertIn(bad["id"], logged.output[0])
        self.assertFalse(
            Received.objects.filter(item=bad["id"]).exists()
        )  # so that it is taken once the bug is mended
        self.assertEqual(send(signed_in(self.at.surveyor), bad)[0]["answer"], "accepted")

    def test_f2_times_that_nothing_could_read_again_are_refused(self) -> None:
        for field, value in (
            ("observed_at", "9999-12-31T23:59:59-12:00"),
            ("observed_at", "0001-01-01T00:00:00+14:00"),
            ("observed_at", "2026-10-20T14:00:00+15:00"),
            ("observed_at", "2026-10-20T14:00:00"),
            ("observed_at", "2026-W43-2T14:00:00+00:00"),
            ("local_date", "20261125aa"),
            ("local_date", "2026-W48-3"),
            ("local_date", "20261125"),
            ("local_date", "1699-12-31"),
            ("local_date", "2201-01-01"),
        ):
            with self.subTest(value=value):
                (answer,) = send(signed_in(self.at.surveyor), visit_item(self.plant, **{field: value}))
                self.assertEqual((answer["answer"], answer["field"]), ("refused", field), answer)
        moved = visit_item(self.plant, observed_at="2026-10-20T23:30:00-05:00")
        self.assertEqual(send(signed_in(self.at.surveyor), moved)[0]["answer"], "accepted")
        self.assertEqual(
            Visit.objects.get(pk=moved["id"]).observed_at.isoformat(), "2026-10-21T04:30:00+00:00"
        )

    def test_f16_a_clock_a_year_behind_is_doubted_too(self) -> None:
        item = visit_item(self.plant, dbh(55), on="2025-11-01")
        body = {"items": [item], "sent_at": "2025-11-02T10:00:00Z"}
        signed_in(self.at.surveyor).post("/api/outbox/", body)
        self.assertTrue(Visit.objects.get(pk=item["id"]).clock_doubtful)


class Outlines(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def answer_to(self, kind: str, coordinates: Any) -> dict[str, Any]:
        item = plant_item(self.at.block, form="group", outline={"type": kind, "coordinates": coordinates})
        for key in ("lon", "lat"):
            del item["body"][key]
        return send(signed_in(self.at.surveyor), item)[0]

    def test_f3_shapes_that_would_be_lost_or_lie_are_refused_at_every_door(self) -> None:
        open_ring, flat = [*RING[:3], [-79.3, 40.6]], [[0, 0], [1, 1], [2, 2], [0, 0]]
        for kind, coordinates in (
            ("Polygon", [open_ring]),
            ("Polygon", [BOWTIE]),
            ("Polygon", [flat]),
            ("Polygon", RING),
            ("Polygon", [[RING]]),
            ("Polygon", []),
            ("Polygon", [RING, []]),
            ("MultiPolygon", [RING]),
            ("MultiPolygon", [[[RING]]]),
            ("LineString", [[0, 0], [0, 0]]),
            ("LineString", [[0, 0]]),
            ("LineString", [[0, 0], [0, "1"]]),
            ("LineString", [[0, 0], [0, 91]]),
            ("LineString", [[0, 0], [True, 1]]),
            ("LineString", [[i / 100_000, 0] for i in range(10_001)]),
        ):
            with self.subTest(kind=kind, coordinates=str(coordinates)[:60]):
                told = self.answer_to(kind, coordinates)
                self.assertEqual((told["answer"], told.get("code")), ("refused", "bad_input"), told)
                self.assertTrue(told["field"].startswith("outline"))
                block = {"name": new_id(), "boundary": {"type": kind, "coordinates": coordinates}}
                answer = signed_in(self.at.steward).post(f"/api/sites/{self.at.site.id}/blocks/", block)
                self.assertEqual(answer.status_code, 400)
        self.assertEqual(Plant.objects.count(), 0)

    def test_f3_heights_are_dropped_and_sound_shapes_stored_whole(self) -> None:
        solid = [[x, y, 310.5] for x, y in RING]
        hole = [[-79.29995, 40.50001], [-79.29992, 40.50001], [-79.29992, 40.50003], [-79.29995, 40.50001]]
        for kind, coordinates, positions in (
            ("Polygon", [solid], 4),
            ("Polygon", [RING, hole], 8),
            ("MultiPolygon", [[RING]], 4),
            ("LineString", [[0, 0, 5], [0, 1, 6]], 2),
        ):
            with self.subTest(kind):
                told = self.answer_to(kind, coordinates)
                self.assertEqual(told["answer"], "accepted", told)
                stored = Plant.objects.get(pk=told["id"]).outline
                self.assertEqual((stored.geom_type, stored.num_coords, stored.hasz), (kind, positions, False))


class EveryAnswerIsJson(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        cls.plant = a_plant(cls.at)

    def refused(self, answer: Any, *statuses: int) -> dict[str, Any]:
        self.assertIn(answer.status_code, statuses or (400,), answer.content[:200])
        self.assertEqual(answer["Content-Type"], "application/json")
        told = answer.json()
        self.assertTrue(told["code"] and told["message"], told)
        return told  # type: ignore[no-any-return]

    def test_f4_json_nested_without_end_is_400_signed_in_or_out(self) -> None:
        deep = "[" * 100_000 + "]" * 100_000
        client = signed_in(self.at.owner)
        for address in (
            "/api/session/",
            "/api/outbox/",
            "/api/core/name/",
            "/api/core/check-visit/",
            f"/api/sites/{self.at.site.id}/blocks/",
            "/api/contacts/",
            "/api/links/",
        ):
            self.refused(client.post(address, deep, content_type="application/json"))
        self.refused(self.client.post("/api/session/", deep, content_type="application/json"))
        self.refused(
            client.post(
                "/api/core/name/",
                json.dumps({"on": "2026-06-01", "observations": nested(200)}),
                content_type="application/json",
            )
        )

    def test_f4_addresses_that_were_tampered_with(self) -> None:
        client = signed_in(self.at.viewer)
        wrong_types = [cursor_after(value, self.plant) for value in ([], {}, 5, True, "a\x00b", 10**400)]
        cursors = ["²", "%00", "bm90IGpzb24=", "W10=", *wrong_types, cursor_after("tag", "not-an-id")]
        for column in ("tag", "dbh_cm", "last_seen", "visits", "-name"):
            for cursor in cursors:
                answer = client.get("/api/inventory/", {"sort": column, "cursor": cursor})
                if answer.status_code != 200:  # a number is a fair cursor of a column of numbers
                    self.refused(answer)
        for address in (
            "/api/changes/?after=²",
            "/api/changes/?after=" + "9" * 30,
            "/api/inventory/?words=%00",
            "/api/inventory/?dbh_from=1e400",
            "/api/inventory/?dbh_from=nan",
            "/api/inventory/?block=x",
            "/api/inventory/?sort=plant__organisation__name",
            f"/api/plants/{self.plant}/known-figures/?on=9999-12-31",
            f"/api/plants/{self.plant}/known-figures/?on=0001-01-01",
            f"/api/plants/{self.plant}/known-figures/",
            "/api/plants/by-taxon/?block=²",
        ):
            with self.subTest(address):
                answer = client.get(address)
                self.refused(answer)

    def test_f4_what_fails_outside_the_framework_answers_in_json_too(self) -> None:
        client = signed_in(self.at.owner)
        self.refused(client.get("/api/nowhere/"), 404)
        self.refused(client.get("/api/health/", HTTP_HOST="elsewhere.example"), 400)
        self.refused(
            client.post("/api/imports/", b"no form", content_type="multipart/form-data; boundary="), 400
        )
        self.refused(client.post("/api/imports/", b"x", content_type="text/plain"), 415)
        self.refused(client.put("/api/inventory/"), 405)

    def test_f4_a_fault_of_the_server_is_said_in_json_and_logged(self) -> None:
        with (
            patch("apps.plants.api.views.inventory_page", side_effect=RuntimeError("a bug")),
            self.assertLogs("config.api_errors", "ERROR"),
        ):
            self.refused(signed_in(self.at.viewer).get("/api/inventory/"), 500)

    def test_a_figure_of_the_plan_has_no_more_decimals_than_it_is_worth(self) -> None:
        angles = {"distance_m": 20, "top": 45, "base": -5}
        a_plant(
            self.at, entry("measurement", quantity="height_m", raw={"angles": angles}, method="instrument")
        )
        plan = signed_in(self.at.viewer).get(f"/api/blocks/{self.at.block.id}/plants/").json()
        self.assertEqual(
            [row["height_m"] for row in plan if row["height_m"]], [21.75]
        )  # 20 m × (tan 45° + tan 5°) = 21.7498

    def test_an_entry_of_another_is_shown_with_who_entered_it(self) -> None:
        """F16: a name typed into the observer's field does not hide the author."""
        item = visit_item(self.plant, entry("note", text="x"), observer="Somebody Else")
        send(signed_in(self.at.surveyor), item)
        visits = signed_in(self.at.viewer).get(f"/api/plants/{self.plant}/").json()["visits"]
        told = {v["observer"]: v["entered_by"] for v in visits}
        self.assertEqual(told, {"Somebody Else": "surveyor", "surveyor": ""})
        self.assertEqual(Entry.objects.filter(kind="note").get().author_id, self.at.surveyor.id)


class Corrections(TestCase):
    def test_a_correction_of_a_correction_with_hostile_ids_is_refused(self) -> None:
        at = small_site()
        a_plant(at)
        (answer,) = send(signed_in(at.surveyor), correction_item("note", replaces="not-an-id", text="x"))
        self.assertEqual((answer["answer"], answer["field"]), ("refused", "entry.replaces"))
