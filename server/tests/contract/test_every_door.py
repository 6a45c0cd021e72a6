"""Every role at every door, of the organisation and of another one: by enumeration of the API description, so
that a door without a line here fails.
"""

from __future__ import annotations

import json
import re
from http.cookies import SimpleCookie
from typing import Any

import yaml
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from rest_framework.test import APIClient

from apps.organisations.models import Member, Role
from apps.plants.tests.factories import SmallSite, plant_item, signed_in, small_site
from jubark_core.tests.door_requests import SOUND
from tests.contract.test_api_description import SCHEMA
from tests.contract.test_who_may_what import OPEN_PATHS, TARGET, WORDS, WithObjects

V, U, S, O = Role.VIEWER, Role.SURVEYOR, Role.STEWARD, Role.OWNER  # noqa: E741, a column each
POLYGON = {"type": "Polygon", "coordinates": [[[0, 0], [0.001, 0], [0.001, 0.001], [0, 0]]]}
PASSWORD = "a-long-password"
# (method, path) -> (the least role, a sound body)
DOORS: dict[tuple[str, str], tuple[Role, Any]] = {
    ("patch", "/api/account/"): (V, {"shown_name": "Ada"}),
    ("post", "/api/account/leave/"): (V, {"password": PASSWORD}),
    ("post", "/api/account/password/"): (V, {"old": PASSWORD, "new": "a quite new phrase"}),
    ("get", "/api/account/sign-ins/"): (V, None),
    ("delete", "/api/account/sign-ins/"): (V, None),
    ("delete", "/api/account/sign-ins/{sign_in_id}/"): (V, None),
    ("get", "/api/audit/"): (O, None),
    ("get", "/api/blocks/"): (V, None),
    ("get", "/api/blocks/{block_id}/"): (V, None),
    ("patch", "/api/blocks/{block_id}/"): (S, {"name": "Other"}),
    ("get", "/api/blocks/{block_id}/export.csv"): (V, None),
    ("get", "/api/blocks/{block_id}/export.geojson"): (V, None),
    ("get", "/api/blocks/{block_id}/carbon/"): (V, None),
    ("post", "/api/blocks/{block_id}/biosecurity/"): (S, {"status": "clean", "since": "2026-10-20"}),
    ("post", "/api/blocks/{block_id}/holds/"): (
        S,
        {"cause": "oak-wilt", "on": "2026-10-20", "reference": "A 1"},
    ),
    ("get", "/api/blocks/{block_id}/plants/"): (V, None),
    ("get", "/api/blocks/{block_id}/plots/"): (V, None),
    ("get", "/api/blocks/{block_id}/storm/"): (V, None),
    ("get", "/api/blocks/{block_id}/summary/"): (V, None),
    ("get", "/api/changes/"): (V, None),
    ("delete", "/api/competences/{competence_id}/"): (S, None),
    ("get", "/api/contacts/"): (S, None),
    ("post", "/api/contacts/"): (S, {"name": "A caller"}),
    ("patch", "/api/contacts/{contact_id}/"): (S, {"phone": "0100"}),
    ("delete", "/api/contacts/{contact_id}/"): (S, None),
    ("get", "/api/core/flora/"): (V, None),
    **{("post", f"/api/core/{name}/"): (V, body) for name, body in SOUND.items()},
    ("post", "/api/imports/"): (S, "a file"),
    ("get", "/api/imports/{batch_id}/"): (V, None),
    ("post", "/api/imports/{batch_id}/"): (S, {"decision": "drop"}),
    ("get", "/api/inventory/"): (V, None),
    ("get", "/api/links/"): (O, None),
    ("post", "/api/links/"): (O, {"role": "viewer"}),
    ("delete", "/api/links/{link_id}/"): (O, None),
    ("post", "/api/outbox/"): (V, {"items": []}),
    ("get", "/api/people/"): (S, None),
    ("patch", "/api/people/{member_id}/"): (O, {"role": "surveyor"}),
    ("delete", "/api/people/{member_id}/"): (O, None),
    ("post", "/api/people/{member_id}/competences/"): (S, {"name": "Felling"}),
    ("post", "/api/people/{member_id}/password-link/"): (O, None),
    ("delete", "/api/people/{member_id}/sign-ins/"): (O, None),
    ("get", "/api/photos/{photo_id}/"): (V, None),
    ("put", "/api/photos/{photo_id}/"): (U, "a picture"),
    ("get", "/api/plants/{plant_id}/"): (V, None),
    ("get", "/api/plants/{plant_id}/from-size/"): (V, None),
    ("get", "/api/plants/{plant_id}/known-figures/"): (V, None),
    ("post", "/api/plants/{plant_id}/merge/"): (S, {"into": PASSWORD}),
    ("delete", "/api/plants/{plant_id}/merge/"): (S, None),
    ("get", "/api/plants/by-taxon/"): (V, None),
    ("get", "/api/reports/{report_id}/"): (V, None),
    ("get", "/api/reports/{report_id}/report.pdf"): (V, None),
    ("get", "/api/sites/"): (V, None),
    ("post", "/api/sites/"): (S, {"name": "New", "lat": 40.5, "lon": -79.3, "areas": ["PEN"]}),
    ("patch", "/api/sites/{site_id}/"): (S, {"name": "Other"}),
    ("post", "/api/sites/{site_id}/blocks/"): (S, {"name": "New", "boundary": POLYGON}),
    ("patch", "/api/sites/{site_id}/conventions/"): (S, {"units": "metric"}),
    ("get", "/api/sites/{site_id}/coverage/"): (V, None),
    ("get", "/api/sites/{site_id}/day/"): (V, None),
    ("get", "/api/sites/{site_id}/health/"): (V, None),
    ("get", "/api/sites/{site_id}/spread/{cause}/"): (V, None),
    ("post", "/api/sites/{site_id}/station/"): (
        S,
        {"name": "Roof", "csv": "date,min_c,max_c\n2026-01-01,1,5"},
    ),
    ("get", "/api/sites/{site_id}/regime/"): (V, None),
    ("put", "/api/sites/{site_id}/regime/"): (S, {"rules": []}),
    ("get", "/api/sites/{site_id}/reports/"): (V, None),
    ("post", "/api/sites/{site_id}/reports/"): (U, {"on": "2026-10-20"}),
    ("get", "/api/sites/{site_id}/targets/"): (V, None),
    ("post", "/api/sites/{site_id}/targets/"): (S, TARGET | {"name": "Another path"}),
    ("get", "/api/sites/{site_id}/targets.geojson"): (V, None),
    ("post", "/api/sites/{site_id}/targets.geojson"): (S, {"features": []}),
    ("get", "/api/sites/{site_id}/work/"): (V, None),
    ("get", "/api/sites/{site_id}/work/budget/"): (V, None),
    ("get", "/api/sites/{site_id}/work/calendar.ics"): (V, None),
    ("post", "/api/sites/{site_id}/work/moves/"): (
        S,
        {"job": "10000000-0000-4000-8000-000000000001", "on": None, "today": "2026-10-20"},
    ),
    ("get", "/api/sites/{site_id}/work/plan/"): (V, None),
    ("post", "/api/sites/{site_id}/work/plan/"): (S, {"on": "2026-10-20"}),
    ("delete", "/api/sites/{site_id}/work/plan/"): (S, None),
    ("get", "/api/sites/{site_id}/work/planting/"): (V, None),
    ("get", "/api/sites/{site_id}/work/settings/"): (V, None),
    ("get", "/api/sites/{site_id}/work/look-ups/"): (V, None),
    ("post", "/api/sites/{site_id}/work/look-ups/"): (
        S,
        {"evidence": {"check_closed": "C5", "what": "owner_look_up", "result": "own"}, "on": "2026-10-20"},
    ),
    ("post", "/api/sites/{site_id}/work/look-ups/{look_up_id}/"): (S, {"reason": "another year"}),
    ("get", "/api/sites/{site_id}/work/to-look-up/"): (V, None),
    ("put", "/api/sites/{site_id}/areas/"): (S, {"areas": ["PEN"]}),
    ("get", "/api/plants/{plant_id}/before-work/"): (V, None),
    ("put", "/api/sites/{site_id}/work/settings/"): (S, {"crews": []}),
    ("get", "/api/sites/{site_id}/work/sheets.pdf"): (V, None),
    ("get", "/api/sites/{site_id}/work/tender.zip"): (V, None),
    ("delete", "/api/targets/{target_id}/"): (S, None),
    ("patch", "/api/targets/{target_id}/"): (S, {"occupancy": "rare"}),
}


class EveryDoor(WithObjects):
    foreign: SmallSite

    def setUp(self) -> None:
        self.sessions: dict[APIClient, dict[str, str]] = {}

    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        cls.foreign = small_site("A third organisation")

    def ask(self, client: APIClient, method: str, path: str, body: Any) -> tuple[int, str]:
        """(status, what is said) at a door; whatever it did is undone."""
        client.cookies = SimpleCookie(
            self.sessions[client]
        )  # one that signs out, or anew, does so here alone
        address = re.sub(r"\{(\w+)\}", lambda found: str((WORDS | self.ids)[found[1]]), path)
        with transaction.atomic():
            if body == "a file":
                file = SimpleUploadedFile("x.csv", b"x", "text/csv")
                given = {"block": str(self.ids["block_id"]), "file": file}
                answer = client.post(address, given, format="multipart")
            elif body == "a picture":
                answer = client.put(address, b"x", content_type="image/jpeg")
            else:
                answer = getattr(client, method)(address, *([] if body is None else [body]))
            transaction.set_rollback(True)
        content = b"".join(answer.streaming_content) if answer.streaming else answer.content
        return answer.status_code, content.decode(errors="replace")  # a PDF is no text

    def people(self, at: SmallSite) -> list[tuple[Member, APIClient]]:
        """Everyone of an organisation, each signed in once."""
        members = (at.viewer, at.surveyor, at.steward, at.owner)
        clients = [signed_in(member) for member in members]
        self.sessions |= {client: {"sessionid": client.cookies["sessionid"].value} for client in clients}
        return list(zip(members, clients, strict=True))

    def test_every_door_has_a_line(self) -> None:
        paths = yaml.safe_load(SCHEMA.read_text())["paths"]
        described = {(m, p) for p, operations in paths.items() for m in operations if p not in OPEN_PATHS}
        self.assertEqual(described, set(DOORS))

    def test_every_role_is_let_in_or_kept_out(self) -> None:
        people = self.people(self.at)
        for (method, path), (least, body) in DOORS.items():
            for member, client in people:
                status, told = self.ask(client, method, path, body)
                with self.subTest(f"{method} {path}", role=member.role):
                    if member.reaches(least):
                        self.assertNotIn(status, (401, 403, 500), told[:300])
                    else:
                        self.assertEqual((status, json.loads(told)["code"]), (403, "not_allowed"))

    def test_every_role_of_another_organisation_finds_nothing(self) -> None:
        people = self.people(self.foreign)
        for (method, path), (least, body) in DOORS.items():
            if "_id}" not in path and body != "a file":
                continue
            for member, client in people:
                status, told = self.ask(client, method, path, body)
                with self.subTest(f"{method} {path}", role=member.role):
                    self.assertIn(status, (404,) if member.reaches(least) else (403, 404), told[:300])

    def test_a_lists_door_tells_another_organisation_of_nothing(self) -> None:
        own = {str(value) for value in self.ids.values()}
        people = self.people(self.foreign)
        for (method, path), (_, body) in DOORS.items():
            if method == "get" and "{" not in path:
                for member, client in people:
                    _, told = self.ask(client, method, path, body)
                    with self.subTest(path, role=member.role):
                        self.assertFalse([value for value in own if value in told])

    def test_an_item_of_the_outbox_of_another_organisation_is_not_taken(self) -> None:
        item = plant_item(self.at.block)
        for _, client in self.people(self.foreign)[1:]:
            _, told = self.ask(client, "post", "/api/outbox/", {"items": [item]})
            [answer] = json.loads(told)["answers"]
            self.assertNotEqual(answer["answer"], "accepted")
