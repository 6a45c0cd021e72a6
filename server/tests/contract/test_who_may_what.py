"""Nobody is let in: every endpoint of the URL configuration, without a session and from another crew."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from django.test import TestCase
from django.urls import URLPattern, URLResolver, get_resolver

from apps.exchange.models import ImportBatch
from apps.stems.tests.factories import a_stem, entry, signed_in, small_ground

OPEN_TO_ALL = {"session", "schema", "shell"}
WORDS = {"taxon": "acer-rubrum", "part": "leaf"}  # parameters that name something of the flora, the same for every crew
METHODS = ("get", "post", "put", "patch", "delete")


def routes(patterns: list[Any], prefix: str = "") -> Iterator[tuple[str, URLPattern]]:
    for p in patterns:
        path = prefix + str(p.pattern)
        if isinstance(p, URLResolver):
            yield from routes(p.url_patterns, path)
        else:
            yield path, p


class EveryEndpoint(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_ground()
        photo = entry("photo", sha256="a" * 64, bytes=10)
        plant = a_stem(cls.at, photo)
        batch = ImportBatch.objects.create(
            crew=cls.at.crew,
            block=cls.at.block,
            author=cls.at.steward,
            file_name="x.csv",
            items={"plants": [], "visits": []},
            bad=[],
            counts={},
        )
        cls.ids = {
            "ground_id": cls.at.ground.id,
            "block_id": cls.at.block.id,
            "plant_id": plant,
            "photo_id": photo["id"],
            "batch_id": batch.id,
        }
        cls.stranger = small_ground("Other crew").owner

    def addresses(self) -> Iterator[tuple[str, str, URLPattern]]:
        for path, p in routes(get_resolver().url_patterns):
            if p.name not in OPEN_TO_ALL:
                named = re.findall(r"<uuid:(\w+)>", path)
                self.assertLessEqual(set(named), set(self.ids), f"{path}: give this test an object of the crew for its parameters")
                path = re.sub(r"<slug:(\w+)>", lambda m: WORDS[m[1]], path)
                yield "/" + re.sub(r"<uuid:(\w+)>", lambda m: str(self.ids[m[1]]), path), "object" if named else "list", p

    def test_without_a_session_everything_is_401(self) -> None:
        seen = 0
        for address, _, p in self.addresses():
            for method in METHODS:
                if hasattr(p.callback.cls, method):
                    answer = getattr(self.client, method)(address)
                    self.assertEqual(answer.status_code, 401, f"{method} {address}")
                    seen += 1
        self.assertGreater(seen, 15)

    def test_from_another_crew_every_object_looks_unknown(self) -> None:
        client, seen = signed_in(self.stranger), 0
        for address, kind, p in self.addresses():
            for method in METHODS if kind == "object" else ():
                if hasattr(p.callback.cls, method):
                    query = "?on=2026-06-01" if "season" in address or "month" in address else ""
                    answer = getattr(client, method)(address + query, *([{"decision": "take"}] if method == "post" else []))
                    if method == "put":
                        answer = client.put(address, b"x", content_type="image/jpeg")
                    self.assertEqual(answer.status_code, 404, f"{method} {address}: {answer.status_code}")
                    seen += 1
        self.assertGreater(seen, 8)

    def test_lists_of_another_crew_are_empty(self) -> None:
        client = signed_in(self.stranger)
        self.assertEqual(client.get("/api/ledger/").json()["count"], 0)
        self.assertNotIn(str(self.at.block.id), client.get("/api/blocks/").content.decode())
        self.assertEqual(client.get(f"/api/ledger/?block={self.at.block.id}").json()["rows"], [])
        self.assertEqual(client.get("/api/changes/?after=0").json()["changes"], [])


class Roles(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_ground()

    def test_only_stewards_and_owners_open_blocks_and_read_files_in(self) -> None:
        boundary = {"type": "Polygon", "coordinates": [[[0, 0], [0.001, 0], [0.001, 0.001], [0, 0]]]}
        for member, status in ((self.at.viewer, 403), (self.at.surveyor, 403), (self.at.steward, 201), (self.at.owner, 201)):
            answer = signed_in(member).post(
                "/api/blocks/", {"ground": str(self.at.ground.id), "name": f"by {member.role}", "boundary": boundary}
            )
            self.assertEqual(answer.status_code, status, answer.content)

    def test_a_block_off_the_earth_or_twice_named_is_refused_with_its_field(self) -> None:
        client = signed_in(self.at.steward)
        for boundary, name, field in (
            ({"type": "Polygon", "coordinates": [[[0, 0], [0, 95], [1, 95], [0, 0]]]}, "north of north", "boundary.lat"),
            ({"type": "Polygon", "coordinates": [[[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]]}, "crossed", "boundary"),
            ({"type": "Point", "coordinates": [0, 0]}, "a point", "boundary"),
            ({"type": "Polygon", "coordinates": [[[0, 0], [1, 0], [1, 1], [0, 0]]]}, "Block", "name"),
        ):
            answer = client.post("/api/blocks/", {"ground": str(self.at.ground.id), "name": name, "boundary": boundary})
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))

    def test_signing_in_needs_the_right_password_and_a_token(self) -> None:
        given = {"username": self.at.viewer.user.username, "password": "wrong"}
        self.assertEqual(self.client.post("/api/session/", given, content_type="application/json").status_code, 401)
        given["password"] = "a-long-password"
        self.assertEqual(self.client.post("/api/session/", given, content_type="application/json").json()["role"], "viewer")
        from django.test import Client

        self.assertEqual(Client(enforce_csrf_checks=True).post("/api/session/", given, content_type="application/json").status_code, 403)
