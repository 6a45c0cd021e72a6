"""Small sites for tests: an organisation with its people, a block, and items as a device would send them."""

from __future__ import annotations

import datetime
import uuid
from dataclasses import dataclass
from typing import Any

from django.contrib.auth.models import User
from django.contrib.gis.geos import Polygon
from rest_framework.test import APIClient

from apps.organisations.models import Member, Organisation, Role
from apps.plants.models import Entry
from apps.plants.stored import body_of
from apps.sites.models import Block, Site
from apps.sites.time_zone import today_in
from jubark_core.records.upgrade import VERSION
from jubark_core.tests import samples

AT = "2026-10-20T14:00:00+00:00"


@dataclass
class SmallSite:
    organisation: Organisation
    site: Site
    block: Block
    owner: Member
    steward: Member
    surveyor: Member
    viewer: Member


def small_site(name: str = "Test organisation") -> SmallSite:
    organisation = Organisation.objects.create(name=name)
    people = {}
    for role in Role:
        user = User.objects.create_user(
            f"{role.value} of {name}".replace(" ", "-").lower(), password="a-long-password"
        )
        people[role.value] = Member.objects.create(
            organisation=organisation, user=user, role=role, shown_name=f"{role.value}"
        )
    site = Site.objects.create(
        organisation=organisation, name=f"{name} site", areas=["PEN"], lat=40.5, lon=-79.3, elevation_m=310
    )
    return SmallSite(organisation, site, open_test_block(site), **people)


def today_there() -> datetime.date:
    """The day it is at a small site, which for hours of each night is not the day in UTC."""
    return today_in("America/New_York")


def open_test_block(site: Site, name: str = "Block") -> Block:
    corners = ((-79.301, 40.499), (-79.299, 40.499), (-79.299, 40.501), (-79.301, 40.501), (-79.301, 40.499))
    return Block.objects.create(
        organisation_id=site.organisation_id,
        site=site,
        name=name,
        boundary=Polygon(corners, srid=4326),
        setting="street",
    )


def signed_in(member: Member) -> APIClient:
    client = APIClient()
    client.force_login(member.user)
    return client


def new_id() -> str:
    return str(uuid.uuid4())


def plant_item(block: Block, **more: Any) -> dict[str, Any]:
    body = {
        "id": new_id(),
        "block": str(block.id),
        "lon": -79.3,
        "lat": 40.5,
        "how_taken": "tapped",
        "recorded_at": AT,
        **more,
    }
    return {"id": body["id"], "kind": "plant", "schema": VERSION, "body": body}


def entry(kind: str, **body: Any) -> dict[str, Any]:
    return {"id": new_id(), "kind": kind, "body": body}


def dbh(value: float) -> dict[str, Any]:
    return entry("measurement", quantity="dbh_cm", raw={"value": value}, method="taped", at_height_m=1.37)


def visit_item(plant: str, *entries: dict[str, Any], on: str = "2026-10-20", **more: Any) -> dict[str, Any]:
    body = {
        "id": new_id(),
        "plant": plant,
        "mode": "field",
        "local_date": on,
        "observed_at": f"{on}T14:00:00+00:00",
        "entries": list(entries),
        **more,
    }
    return {"id": body["id"], "kind": "visit", "schema": VERSION, "body": body}


def correction_item(
    kind: str, replaces: str | None = None, retracts: str | None = None, why: str = "slip", **body: Any
) -> dict[str, Any]:
    raw = {
        "id": new_id(),
        "kind": kind,
        "recorded_at": AT,
        "reason": why,
        **({"replaces": replaces, "body": body} if replaces else {"retracts": retracts}),
    }
    return {"id": raw["id"], "kind": "correction", "schema": VERSION, "body": raw}


def clock_item(visit: str) -> dict[str, Any]:
    body = {"id": new_id(), "visit": visit, "recorded_at": AT}
    return {"id": body["id"], "kind": "clock", "schema": VERSION, "body": body}


def send(client: APIClient, *items: dict[str, Any]) -> list[dict[str, Any]]:
    response = client.post("/api/outbox/", {"items": list(items)})
    assert response.status_code == 200, response.content
    answers: list[dict[str, Any]] = response.json()["answers"]
    return answers


def take_samples(at: SmallSite, version: int) -> list[dict[str, Any]]:
    """Everything a device of a record version sent, taken: every kind, corrected and withdrawn; the items."""
    items = samples.outbox_items(version, str(at.block.id))
    answers = send(signed_in(at.surveyor), *items)
    assert {a["answer"] for a in answers} == {"accepted"}, answers
    return items


def recorded(kind: str, **narrowed: Any) -> list[Any]:
    """The stored bodies of a kind, oldest first; narrowed: conditions on Entry, as `visit=...`."""
    return [body_of(e) for e in Entry.objects.filter(kind=kind, **narrowed).order_by("received_at", "id")]


def a_plant(at: SmallSite, *entries: dict[str, Any], on: str = "2026-10-20", **place: float) -> str:
    """A stem with one visit; its id. place: lon, lat where it does not stand in the middle."""
    plant = plant_item(at.block, **place)
    answers = send(signed_in(at.surveyor), plant, visit_item(plant["id"], *(entries or (dbh(30.0),)), on=on))
    assert [a["answer"] for a in answers] == ["accepted", "accepted"], answers
    return str(plant["id"])
