"""Nobody is let in: every endpoint of the URL configuration, without a session and from another
organisation.
"""

from __future__ import annotations

import importlib
import inspect
import re
from collections.abc import Callable, Iterator
from inspect import _ParameterKind
from pathlib import Path
from typing import Any
from uuid import uuid4

import yaml
from django.test import TestCase
from django.urls import URLPattern, URLResolver, get_resolver
from django.utils import timezone

import apps
from apps.exchange.models import ImportBatch
from apps.inspections.models import Target
from apps.inspections.services.freeze_report import freeze_report
from apps.inspections.services.set_target import make_target
from apps.organisations.models import AccessLink, AuditEvent, Competence, Contact, Member, Role, SignIn
from apps.organisations.services.access_links import invite_member
from apps.organisations.services.competences import add_competence
from apps.organisations.services.contacts import make_contact
from apps.plants.incoming import read_clock, read_entry, read_plant, read_visit
from apps.plants.models import Change, Entry, Plant, Received, Visit
from apps.plants.tests.factories import (
    AT,
    SmallSite,
    a_plant,
    dbh,
    entry,
    new_id,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.models import Block, Site
from apps.work.models import LookUp, MovedJob, PlanRun, SiteWorkSettings
from apps.work.services.look_ups import make_look_up
from config.errors import NotAllowed
from tests.contract.test_api_description import SCHEMA

# doors without a session; each of them has tests of its own
OPEN_TO_ALL = {
    "session",
    "schema",
    "shell",
    "health",
    "ready",
    "moved",
    "first-run",
    "link-look",
    "link-join",
    "link-password",
}
OPEN_PATHS = (
    "/api/session/",
    "/api/first-run/",
    "/api/ready/",
    "/api/links/look/",
    "/api/links/join/",
    "/api/links/password/",
)
TARGET = {
    "name": "Mill path",
    "kind": "path",
    "occupancy": "frequent",
    "shape": {"type": "Point", "coordinates": [-79.3, 40.5]},
}
WORDS = {
    "taxon": "acer-rubrum",
    "part": "leaf",
    "cause": "oak-wilt",
}  # parameters that name something of the flora, the same for every organisation
KEYWORD_ONLY = _ParameterKind.KEYWORD_ONLY
METHODS = ("get", "post", "put", "patch", "delete")


def routes(patterns: list[Any], prefix: str = "") -> Iterator[tuple[str, URLPattern]]:
    for p in patterns:
        path = prefix + str(p.pattern)
        if isinstance(p, URLResolver):
            yield from routes(p.url_patterns, path)
        else:
            yield path, p


def described() -> set[tuple[str, str]]:
    """(method, path) of every operation of the description that needs a session."""
    paths = yaml.safe_load(SCHEMA.read_text())["paths"]
    return {(m, path) for path, operations in paths.items() for m in operations if path not in OPEN_PATHS}


class WithObjects(TestCase):
    """An organisation that has one object of every kind an address can name."""

    ids: dict[str, Any]
    at: SmallSite

    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        photo = entry("photo", sha256="a" * 64, bytes=10)
        plant = a_plant(cls.at, photo)
        batch = ImportBatch.objects.create(
            organisation=cls.at.organisation,
            block=cls.at.block,
            author=cls.at.steward,
            file_name="x.csv",
            items={"plants": [], "visits": []},
            bad=[],
            counts=dict.fromkeys(("rows", "plants", "visits", "entries", "bad"), 0),
        )
        steward_sign_in = SignIn.objects.create(
            organisation=cls.at.organisation,
            member=cls.at.steward,
            session_key="a" * 32,
            device="Firefox on Linux",
            last_seen_at=timezone.now(),
        )
        competence = add_competence(actor=cls.at.steward, member=cls.at.surveyor, given={"name": "Felling"})
        contact = make_contact(actor=cls.at.steward, given={"name": "A neighbour"})
        link, _ = invite_member(actor=cls.at.owner, role="viewer")
        target = make_target(actor=cls.at.steward, site=cls.at.site, given=TARGET)
        owner = {"check_closed": "C5", "what": "owner_look_up", "result": "own"}
        told = {"evidence": owner, "on": "2026-10-20"}
        looked_up = make_look_up(actor=cls.at.steward, site=cls.at.site, given=told)
        report = freeze_report(actor=cls.at.surveyor, site=cls.at.site, given={"on": "2026-10-20"})
        cls.ids = {
            "target_id": target.thing,
            "report_id": report.id,
            "look_up_id": looked_up.id,
            "member_id": cls.at.viewer.id,
            "sign_in_id": steward_sign_in.id,
            "competence_id": competence.id,
            "contact_id": contact.id,
            "link_id": link.id,
            "site_id": cls.at.site.id,
            "block_id": cls.at.block.id,
            "plant_id": plant,
            "photo_id": photo["id"],
            "batch_id": batch.id,
        }


class EveryEndpoint(WithObjects):
    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        cls.stranger = small_site("Other organisation").owner

    def addresses(self) -> Iterator[tuple[str, str, URLPattern]]:
        for path, p in routes(get_resolver().url_patterns):
            if p.name not in OPEN_TO_ALL:
                named = re.findall(r"<uuid:(\w+)>", path)
                self.assertLessEqual(
                    set(named),
                    set(self.ids),
                    f"{path}: give this test an object of the organisation for its parameters",
                )
                path = re.sub(r"<slug:(\w+)>", lambda m: WORDS[m[1]], path)
                yield (
                    "/" + re.sub(r"<uuid:(\w+)>", lambda m: str(self.ids[m[1]]), path),
                    "object" if named else "list",
                    p,
                )

    def test_without_a_session_everything_is_401(self) -> None:
        seen = set()
        for address, _, p in self.addresses():
            for method in METHODS:
                if hasattr(p.callback.cls, method):
                    answer = getattr(self.client, method)(address)
                    self.assertEqual(answer.status_code, 401, f"{method} {address}")
                    seen.add((method, p.name))
        self.assertEqual(len(seen), len(described()))

    def test_from_another_organisation_every_object_looks_unknown(self) -> None:
        client, seen = signed_in(self.stranger), set()
        for address, kind, p in self.addresses():
            for method in METHODS if kind == "object" else ():
                if hasattr(p.callback.cls, method):
                    query = "?on=2026-06-01" if "season" in address or "month" in address else ""
                    answer = getattr(client, method)(
                        address + query, *([{"decision": "take"}] if method == "post" else [])
                    )
                    if method == "put":
                        answer = client.put(address, b"x", content_type="image/jpeg")
                    self.assertEqual(answer.status_code, 404, f"{method} {address}: {answer.status_code}")
                    seen.add((method, p.name))
        of_objects = [path for _, path in described() if re.search(r"\{\w+_id\}", path)]
        self.assertEqual(len(seen), len(of_objects))

    def test_lists_of_another_organisation_are_empty(self) -> None:
        client = signed_in(self.stranger)
        self.assertEqual(client.get("/api/inventory/").json()["count"], 0)
        self.assertNotIn(str(self.at.block.id), client.get("/api/blocks/").content.decode())
        self.assertEqual(client.get(f"/api/inventory/?block={self.at.block.id}").json()["rows"], [])
        self.assertEqual(client.get("/api/changes/?after=0").json()["changes"], [])


class Roles(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def test_only_stewards_and_owners_open_blocks_and_read_files_in(self) -> None:
        boundary = {"type": "Polygon", "coordinates": [[[0, 0], [0.001, 0], [0.001, 0.001], [0, 0]]]}
        for member, status in (
            (self.at.viewer, 403),
            (self.at.surveyor, 403),
            (self.at.steward, 201),
            (self.at.owner, 201),
        ):
            answer = signed_in(member).post(
                f"/api/sites/{self.at.site.id}/blocks/",
                {"name": f"by {member.role}", "boundary": boundary},
            )
            self.assertEqual(answer.status_code, status, answer.content)

    def test_a_block_off_the_earth_or_twice_named_is_refused_with_its_field(self) -> None:
        client = signed_in(self.at.steward)
        for boundary, name, field in (
            (
                {"type": "Polygon", "coordinates": [[[0, 0], [0, 95], [1, 95], [0, 0]]]},
                "north of north",
                "boundary.coordinates[0][1].lat",
            ),
            (
                {"type": "Polygon", "coordinates": [[[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]]},
                "crossed",
                "boundary",
            ),
            ({"type": "Point", "coordinates": [0, 0]}, "a point", "boundary.type"),
            ({"type": "Polygon", "coordinates": [[[0, 0], [1, 0], [1, 1], [0, 0]]]}, "Block", "name"),
        ):
            answer = client.post(
                f"/api/sites/{self.at.site.id}/blocks/", {"name": name, "boundary": boundary}
            )
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))

    def test_signing_in_needs_the_right_password_and_a_token(self) -> None:
        given = {"username": self.at.viewer.user.username, "password": "wrong"}
        self.assertEqual(
            self.client.post("/api/session/", given, content_type="application/json").status_code, 401
        )
        given["password"] = "a-long-password"
        self.assertEqual(
            self.client.post("/api/session/", given, content_type="application/json").json()["role"], "viewer"
        )
        from django.test import Client

        self.assertEqual(
            Client(enforce_csrf_checks=True)
            .post("/api/session/", given, content_type="application/json")
            .status_code,
            403,
        )


class OldApps(TestCase):
    """What an app of the first version, still on somebody's device, meets."""

    def test_moved_addresses_say_so_and_the_doors_of_saved_work_never_moved(self) -> None:
        at = small_site()
        client = signed_in(at.surveyor)
        for address in (
            "/api/grounds/",
            "/api/ledger/?sort=tag",
            "/api/naming/vocabulary/",
            "/api/size/reckon/",
            f"/api/blocks/{at.block.id}/plan/",
            f"/api/blocks/{at.block.id}/season/?on=2026-07-01",
            f"/api/blocks/{at.block.id}/month-sheet/?on=2026-07-01",
            "/api/core/names/?words=oak",
            "/api/core/drawings/",
            "/api/core/species/acer-rubrum/season/?on=2026-07-01",
            "/api/core/plates/acer-rubrum/leaf/?on=2026-07-01",
            "/api/size/compute/",
            "/api/condition/risk/",
        ):
            for ask in (client.get, client.post):  # no redirect: it would turn POST into GET
                answer = ask(address)
                self.assertEqual((answer.status_code, answer.json()["code"]), (410, "app_outdated"), address)
        self.assertEqual(send(client, plant_item(at.block))[0]["answer"], "accepted")
        self.assertEqual(client.get("/api/session/").status_code, 200)
        self.assertEqual(
            client.put(f"/api/photos/{new_id()}/", b"x", content_type="image/jpeg").status_code, 404
        )


class Services(TestCase):
    """F5: every service that changes something asks for a role; found by looking, so that none can be
    forgotten.
    """

    NEEDS = {
        "make_site": Role.STEWARD,
        "change_site": Role.STEWARD,
        "make_block": Role.STEWARD,
        "change_block": Role.STEWARD,
        "add_competence": Role.STEWARD,
        "remove_competence": Role.STEWARD,
        "make_contact": Role.STEWARD,
        "change_contact": Role.STEWARD,
        "erase_contact": Role.STEWARD,
        "invite_member": Role.OWNER,
        "make_password_link": Role.OWNER,
        "revoke_link": Role.OWNER,
        "change_member": Role.OWNER,
        "end_membership": Role.OWNER,
        "end_sign_ins_of": Role.OWNER,
        # on oneself
        "change_own_name": Role.VIEWER,
        "change_password": Role.VIEWER,
        "leave_organisation": Role.VIEWER,
        "end_sign_in": Role.VIEWER,
        "end_other_sign_ins": Role.VIEWER,
        "set_conventions": Role.STEWARD,
        "make_target": Role.STEWARD,
        "change_target": Role.STEWARD,
        "end_target": Role.STEWARD,
        "take_targets": Role.STEWARD,
        "set_regime": Role.STEWARD,
        "set_work_settings": Role.STEWARD,
        "make_look_up": Role.STEWARD,
        "withdraw_look_up": Role.STEWARD,
        "set_areas": Role.STEWARD,
        "ask_for_plan": Role.STEWARD,
        "cancel_plan": Role.STEWARD,
        "move_job": Role.STEWARD,
        "take_station": Role.STEWARD,
        "set_biosecurity": Role.STEWARD,
        "lift_hold": Role.STEWARD,
        "freeze_report": Role.SURVEYOR,
        "merge_plants": Role.STEWARD,
        "undo_merge": Role.STEWARD,
        "record_plant": Role.SURVEYOR,
        "record_visit": Role.SURVEYOR,
        "correct_entry": Role.SURVEYOR,
        "confirm_clock": Role.SURVEYOR,
        "receive_outbox": Role.SURVEYOR,
        "store_photo": Role.SURVEYOR,
        "take_records": Role.STEWARD,
        "stage_file": Role.STEWARD,
        "take_file": Role.STEWARD,
        "drop_file": Role.STEWARD,
        # on the machine itself, by whoever may run manage.py; no member is asked
        "create_organisation": None,
    }

    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        photo = entry("photo", sha256="a" * 64, bytes=10)
        cls.target = dbh(30)
        cls.late = visit_item("", on="2199-01-01")
        cls.plant = a_plant(cls.at, photo, cls.target)
        cls.late["body"]["plant"] = cls.plant
        send(signed_in(cls.at.steward), cls.late)
        cls.photo = photo["id"]

    def found(self) -> dict[str, Callable[..., Any]]:
        """Service -> function: every public function of a services module that takes an actor."""
        services = {}
        for module in sorted(Path(apps.__path__[0]).glob("*/services/*.py")):
            name = f"apps.{module.parent.parent.name}.services.{module.stem}"
            for function in vars(importlib.import_module(name)).values():
                if (
                    inspect.isfunction(function)
                    and function.__module__ == name
                    and not function.__name__.startswith("_")
                ):
                    own = inspect.unwrap(function)
                    if (
                        "actor" in inspect.signature(own).parameters
                        and inspect.signature(own).parameters["actor"].kind is KEYWORD_ONLY
                    ):
                        services[function.__name__] = function
        return services

    def test_each_has_a_role_it_needs(self) -> None:
        self.assertEqual(set(self.found()), {name for name, role in self.NEEDS.items() if role})

    def test_a_role_below_is_refused_and_nothing_is_written(self) -> None:
        batch = ImportBatch.objects.create(
            organisation=self.at.organisation,
            block=self.at.block,
            author=self.at.steward,
            file_name="x.csv",
            items={"plants": [], "visits": []},
            bad=[],
            counts={},
        )
        note = read_entry(
            {
                "id": new_id(),
                "kind": "measurement",
                "replaces": self.target["id"],
                "recorded_at": AT,
                "body": self.target["body"],
            }
        )
        plant, visit = plant_item(self.at.block)["body"], visit_item(self.plant, dbh(31))["body"]
        given: dict[str, dict[str, Any]] = {
            "make_site": {"given": {}},
            "change_site": {"site": self.at.site, "given": {}},
            "make_block": {"site": self.at.site, "given": {}},
            "change_block": {"block": self.at.block, "given": {}},
            "add_competence": {"member": self.at.viewer, "given": {}},
            "remove_competence": {"competence": Competence()},
            "make_contact": {"given": {}},
            "change_contact": {"contact": Contact(), "given": {}},
            "erase_contact": {"contact": Contact()},
            "invite_member": {"role": "viewer"},
            "make_password_link": {"member": self.at.viewer},
            "revoke_link": {"link": AccessLink()},
            "change_member": {"member": self.at.viewer, "changes": {"role": "owner"}},
            "end_membership": {"member": self.at.viewer},
            "end_sign_ins_of": {"member": self.at.viewer},
            "make_target": {"site": self.at.site, "given": {}},
            "change_target": {"target": Target(), "given": {}},
            "end_target": {"target": Target()},
            "take_targets": {"site": self.at.site, "given": {}},
            "set_regime": {"site": self.at.site, "given": {}},
            "set_work_settings": {"site": self.at.site, "given": {}},
            "make_look_up": {"site": self.at.site, "given": {}},
            "withdraw_look_up": {"look_up": LookUp(), "reason": "x"},
            "set_areas": {"site": self.at.site, "areas": ["PEN"]},
            "ask_for_plan": {"site": self.at.site, "starts": timezone.now().date()},
            "cancel_plan": {"site": self.at.site},
            "move_job": {"site": self.at.site, "job": uuid4(), "on": None, "today": timezone.now().date()},
            "take_station": {"site": self.at.site, "given": {}},
            "set_biosecurity": {"block": self.at.block, "given": {}},
            "lift_hold": {"block": self.at.block, "given": {}},
            "freeze_report": {"site": self.at.site, "given": {}},
            "merge_plants": {"plant": Plant(), "given": {}},
            "undo_merge": {"plant": Plant()},
            "set_conventions": {"site": self.at.site, "changes": {}},
            "record_plant": {"plant": read_plant(plant)},
            "record_visit": {"visit": read_visit(visit)},
            "correct_entry": {"entry": note},
            "confirm_clock": {
                "confirmation": read_clock({"id": new_id(), "visit": self.late["id"], "recorded_at": AT})
            },
            "store_photo": {"photo_id": self.photo, "data": b""},
            "take_records": {"plants": [], "visits": []},
            "stage_file": {"block": self.at.block, "file_name": "x.csv", "data": b""},
            "take_file": {"batch": batch},
            "drop_file": {"batch": batch},
        }
        before = self.rows()
        for name, service in self.found().items():
            role = self.NEEDS[name]
            below = [
                m for m in (self.at.viewer, self.at.surveyor, self.at.steward) if role and not m.reaches(role)
            ]
            self.assertEqual(bool(below), role != Role.VIEWER)
            for member in below:
                with self.subTest(name, role=member.role):
                    if (
                        name == "receive_outbox"
                    ):  # judged item by item: a reused id must not be kept for somebody who may not write
                        answers = service(
                            actor=member,
                            items=[{**self.late, "body": {**self.late["body"], "observer": "x"}}],
                        )
                        self.assertEqual(answers[0]["code"], "not_allowed")
                    else:
                        self.assertRaises(NotAllowed, service, actor=member, **given[name])
        self.assertEqual(self.rows(), before)
        batch.refresh_from_db()
        self.assertEqual(batch.state, "staged")

    def rows(self) -> dict[str, int]:
        return {
            m.__name__: m._default_manager.count()
            for m in (
                AccessLink,
                AuditEvent,
                Block,
                Change,
                Competence,
                Contact,
                Entry,
                ImportBatch,
                Member,
                Plant,
                Received,
                MovedJob,
                PlanRun,
                Site,
                SiteWorkSettings,
                Visit,
            )
        }
