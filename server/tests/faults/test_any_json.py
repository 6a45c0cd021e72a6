"""Any JSON at every door: an answer of 2xx or 4xx in JSON that says what is wrong, and nothing half-saved.

Hypothesis, with a fixed seed and a bounded number of examples; sound requests with one part spoilt find more
than noise does.
"""

from __future__ import annotations

import copy
import json
from collections.abc import Callable
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from apps.exchange.models import ImportBatch
from apps.organisations.models import AccessLink, AuditEvent, Competence, Contact, Member
from apps.plants.models import Change, Entry, Plant, Received, Visit
from apps.plants.tests.factories import (
    a_plant,
    correction_item,
    dbh,
    entry,
    new_id,
    signed_in,
    small_site,
    visit_item,
)
from apps.sites.models import Block, Site
from jubark_core.records.upgrade import VERSION
from jubark_core.tests import samples
from jubark_core.tests.door_requests import SOUND
from jubark_core.tests.profiles import examples

EXAMPLES = examples(12, 30)
FEW_EXAMPLES = examples(4, 12)  # of many doors at a time
LONG_EXAMPLES = examples(12, 300)  # of the doors that devices and naming go through
POLYGON = {
    "type": "Polygon",
    "coordinates": [[[-79.3, 40.5], [-79.2999, 40.5], [-79.2999, 40.5001], [-79.3, 40.5]]],
}
CASE = {
    "on": "2026-10-20",
    "lat": 40.5,
    "lon": -79.3,
    "elevation_m": 310,
    "areas": ["PEN"],
    "setting": "woodland",
    "origin": "wild",
    "stage": "mature",
    "reach": ["trunk"],
    "tools": ["eye"],
    "tally": {"acer-rubrum": 3},
    "prior": "flat",
    "threshold": 0.9,
    "status": [],
    "observations": [
        {
            "character": "leaf.arrangement",
            "state": "opposite",
            "certainty": "sure",
            "specimen": "a",
            "observer": "m",
        },
        {
            "character": "leaf.side_veins",
            "values": [9, 10],
            "seen": "litter",
            "on": "2026-09-01",
            "stage": "mature",
        },
        {"character": "leaf.base", "state": "unequal", "k": 3, "n": 8, "slip": 0.1},
        {"character": "bark.texture", "states": ["smooth"], "absent": ["scaly"], "where": "breast"},
        {"character": "fruit.kind", "none": True},
    ],
}

odd = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-(10**20), 10**20),
    st.sampled_from([10**400, -(10**400), float("inf"), float("-inf"), 1e308, 5e-324, -0.0]),
    st.floats(allow_nan=False),
    st.text(st.characters(blacklist_categories=()), max_size=8),
    st.sampled_from(
        [
            "",
            "\x00",
            "\ud800",
            "²",
            "9999-12-31",
            "2026-02-30",
            "x" * 5000,
            "=1+1",
            "none",
            "unlisted",
            "__proto__",
        ]
    ),
)
any_json = st.recursive(
    odd,
    lambda part: st.lists(part, max_size=4) | st.dictionaries(st.text(max_size=6), part, max_size=4),
    max_leaves=8,
)


def places(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Every place in a JSON value."""
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    return [path, *(p for key, part in inner for p in places(part, (*path, key)))]


def spoilt(value: Any, path: tuple[Any, ...], by: Any, how: str) -> Any:
    """The value with one place replaced, left out, doubled, or given a key nobody knows."""
    if not path:
        return by
    value = copy.deepcopy(value)
    at = value
    for key in path[:-1]:
        at = at[key]
    if how == "replace":
        at[path[-1]] = by
    elif how == "drop":
        del at[path[-1]]
    elif isinstance(at, list):
        at.append(at[path[-1]] if how == "double" else by)
    else:
        at[str(by)[:20]] = at[path[-1]]
    return value


def spoilt_versions(*sound: Any) -> st.SearchStrategy[Any]:
    """One of the sound values, spoilt at one or two places; now and then anything at all."""

    @st.composite
    def build(draw: Callable[[Any], Any]) -> Any:
        value = draw(st.sampled_from(sound))
        for _ in range(draw(st.integers(1, 2))):
            value = spoilt(
                value,
                draw(st.sampled_from(places(value))),
                draw(any_json),
                draw(st.sampled_from(["replace"] * 4 + ["drop", "double", "more"])),
            )
        return value

    return build() | any_json


def fresh(item: dict[str, Any]) -> dict[str, Any]:
    """An item under a new id."""
    own = new_id()
    return {**item, "id": own, "body": {**item["body"], "id": own}}


def wire(value: Any) -> str:
    """JSON as a careless client writes it: infinite numbers as 1e999, half surrogates escaped."""
    return json.dumps(value).replace("Infinity", "1e999")


class Doors(TestCase):
    """Every door that takes JSON."""

    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        cls.look = entry("observation", character="leaf.arrangement", states=["opposite"])
        cls.size = dbh(30)
        cls.plant = a_plant(cls.at, cls.look, cls.size)

    def rows(self) -> tuple[int, ...]:
        models = (Plant, Visit, Entry, Received, Change, Site, Block, ImportBatch)
        people = (Member, Contact, Competence, AccessLink, AuditEvent)
        return tuple(m._default_manager.count() for m in (*models, *people))

    def judged(self, answer: Any, sent: Any) -> Any:
        """What every answer must be: JSON, 2xx or 4xx, and a refusal says what is wrong."""
        self.assertIn(
            answer.status_code // 100,
            (2, 4),
            f"{answer.status_code} {answer.content[:300]!r} to {str(sent)[:500]}",
        )
        self.assertEqual(answer["Content-Type"], "application/json")
        self.assertLess(len(answer.content), 2_000_000)
        told = answer.json()
        if answer.status_code >= 400:
            self.assertTrue(told["code"] and told["message"], told)
            if told["code"] == "bad_input":
                self.assertTrue(told["field"] and told["value"] and told["allowed"], told)
        return told

    def throw(self, address: str, value: Any, method: str = "post", member: Any = None) -> Any:
        before = self.rows()
        client = signed_in(member or self.at.steward)
        answer = getattr(client, method)(address, wire(value), content_type="application/json")
        told = self.judged(answer, value)
        if answer.status_code >= 400:
            self.assertEqual(self.rows(), before, f"half-saved: {value}")
        return told

    def sound_items(self) -> list[dict[str, Any]]:
        """A sound item of every kind, each visit with one entry; references are to entries of the plant."""
        text = json.dumps(samples.outbox_items(VERSION, str(self.at.block.id)))
        plant = samples.outbox_items(VERSION)[0]["id"]
        for old, new in (
            (plant, self.plant),
            *((e["id"], self.look["id"]) for e in samples.entries(VERSION)),
        ):
            text = text.replace(old, str(new))
        items: list[dict[str, Any]] = json.loads(text)
        single = [
            visit_item(self.plant, {**e, "id": new_id()})
            for item in items
            if item["kind"] == "visit"
            for e in item["body"].get("entries", [])
        ]
        plants = [fresh(item) for item in items if item["kind"] == "plant"]
        correction = correction_item(
            "measurement", replaces=self.size["id"], **{**self.size["body"], "raw": {"value": 31}}
        )
        return [*plants, correction, *single]

    def outbox(self, item: Any) -> None:
        good = visit_item(self.plant, entry("note", text="what stands behind"))
        before = self.rows()
        told = self.throw("/api/outbox/", {"items": [item, good]}, member=self.at.surveyor)
        first, second = told["answers"]
        self.assertEqual(second["answer"], "accepted")
        after = self.rows()
        if first["answer"] == "refused":
            self.assertTrue(first["code"] and first["message"], first)
            self.assertNotEqual(first["code"], "server_error", f"{first} to {str(item)[:600]}")
            if first["code"] == "bad_input":
                self.assertTrue(first["field"] and first["allowed"], first)
            self.assertEqual(after[:3], (before[0], before[1] + 1, before[2] + 1), "half-saved")
        if first["answer"] != "accepted":
            return
        # whatever was taken can be read again
        client = signed_in(self.at.viewer)
        for address in (
            f"/api/plants/{self.plant}/",
            f"/api/plants/{self.plant}/from-size/",
            f"/api/blocks/{self.at.block.id}/plants/",
        ):
            self.assertEqual(client.get(address).status_code, 200, f"{address} after {str(item)[:600]}")
        for ending in ("csv", "geojson"):
            self.assertEqual(client.get(f"/api/blocks/{self.at.block.id}/export.{ending}").status_code, 200)

    @LONG_EXAMPLES
    @given(st.data())
    def test_the_outbox_judges_any_item_and_takes_what_stands_behind(self, data: Any) -> None:
        self.outbox(data.draw(spoilt_versions(*self.sound_items())))

    @LONG_EXAMPLES
    @given(st.data())
    def test_naming_takes_any_case(self, data: Any) -> None:
        case = data.draw(spoilt_versions(CASE))
        self.throw("/api/core/name/", case)
        self.throw(
            "/api/core/not-separated-from/",
            {"case": case, "taxon": data.draw(st.sampled_from(["acer-rubrum", "", "\x00", 5]))},
        )

    @EXAMPLES
    @given(st.data())
    def test_the_core_takes_any_request(self, data: Any) -> None:
        name = data.draw(st.sampled_from(sorted(SOUND.keys() - {"name", "tiles", "vocabulary"})))
        self.throw(f"/api/core/{name}/", data.draw(spoilt_versions(SOUND[name])))

    @EXAMPLES
    @given(st.data())
    def test_settings_blocks_and_sign_in_take_any_body(self, data: Any) -> None:
        site = self.at.site.id
        block = {"name": "New", "boundary": POLYGON, "setting": "street"}
        conventions = {
            "breast_height_m": 1.3,
            "several_stems": "squares",
            "smallest_cm": 5,
            "protection": "bs5837",
            "survey_steps": ["where", "diameter"],
        }
        self.throw(f"/api/sites/{site}/blocks/", data.draw(spoilt_versions(block)))
        self.throw(f"/api/sites/{site}/conventions/", data.draw(spoilt_versions(conventions)), "patch")
        self.throw("/api/session/", data.draw(spoilt_versions({"username": "x", "password": "y"})))

    @FEW_EXAMPLES
    @given(st.data())
    def test_people_and_sites_take_any_json(self, data: Any) -> None:
        self.people_and_sites(data)

    def people_and_sites(self, data: Any) -> None:
        new_site = {"name": "New", "lat": 40.5, "lon": -79.3, "areas": ["PEN"], "hardiness_zone": "6b"}
        contact = {"name": "A neighbour", "email": "n@example.org", "note": "calls"}
        competence = {"name": "Felling", "valid_from": "2025-01-01", "valid_until": "2027-01-01"}
        joining = {
            "token": "of nobody",
            "username": "ada",
            "shown_name": "Ada",
            "password": "a long password",
        }
        person, owner = f"/api/people/{self.at.viewer.id}/", self.at.owner
        for address, sound, method in (
            ("/api/sites/", new_site, "post"),
            (f"/api/sites/{self.at.site.id}/", new_site, "patch"),
            (f"/api/blocks/{self.at.block.id}/", {"name": "Other", "biosecurity": "suspect"}, "patch"),
            ("/api/contacts/", contact, "post"),
            (person + "competences/", competence, "post"),
            (person, {"role": "surveyor", "access_until": "2199-01-01"}, "patch"),
            ("/api/links/", {"role": "viewer", "shown_name": "Ada", "access_until": None}, "post"),
            ("/api/links/look/", {"token": "of nobody"}, "post"),
            ("/api/links/join/", joining, "post"),
            ("/api/links/password/", joining, "post"),
            ("/api/first-run/", joining | {"name": "A trust"}, "post"),
            ("/api/account/", {"shown_name": "Ada"}, "patch"),
            ("/api/account/password/", {"old": "not it", "new": "another long one"}, "post"),
            ("/api/account/leave/", {"password": "not it"}, "post"),
        ):
            self.throw(address, data.draw(spoilt_versions(sound)), method, owner)

    @FEW_EXAMPLES
    @given(st.data())
    def test_imports_take_any_file(self, data: Any) -> None:
        self.import_of_any_file(data)

    def import_of_any_file(self, data: Any) -> None:
        client = signed_in(self.at.steward)
        address = f"/api/blocks/{self.at.block.id}/export."
        collection = json.loads(b"".join(client.get(address + "geojson").streaming_content))
        table = b"".join(client.get(address + "csv").streaming_content)
        at, cut = data.draw(st.integers(0, len(table))), data.draw(st.integers(0, 60))
        noise = data.draw(
            st.binary(max_size=12)
            | st.sampled_from([b'"', b"\r\n", b",,,", b"\x00", b"'", b"1e999", b"[" * 2000])
        )
        files = (
            ("a.geojson", wire(data.draw(spoilt_versions(collection))).encode()),
            ("a.csv", table[:at] + noise + table[at + cut :]),
        )
        for name, content in files:
            batch = client.post(
                "/api/imports/",
                {"block": str(self.at.block.id), "file": SimpleUploadedFile(name, content)},
                format="multipart",
            )
            told = self.judged(batch, content[:600])
            if batch.status_code == 201:
                self.judged(client.post(f"/api/imports/{told['id']}/", {"decision": "take"}), content[:600])
                self.assertEqual(client.get(address + "csv").status_code, 200)

    @EXAMPLES
    @given(
        st.sampled_from(
            [
                "sort",
                "cursor",
                "block",
                "words",
                "taxon",
                "dbh_from",
                "condition",
                "sign",
                "unnamed",
                "after",
                "on",
                "taxa",
            ]
        ),
        odd,
    )
    def test_addresses_take_any_words(self, name: str, value: Any) -> None:
        client = signed_in(self.at.viewer)
        text = str(value).encode("utf-8", "replace").decode()[:200]
        for address in (
            "/api/inventory/",
            "/api/changes/",
            "/api/plants/by-taxon/",
            f"/api/plants/{self.plant}/known-figures/",
        ):
            answer = client.get(address, {name: text})
            self.assertNotEqual(answer.status_code, 404, address)
            self.judged(answer, (address, name, text))
