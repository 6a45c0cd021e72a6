"""The description holds: requests made from it, as each role, get an answer that stands in it."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import Any

import requests
import schemathesis
import yaml
from django.db import transaction
from django.test import Client, tag
from hypothesis import given
from hypothesis.extra.django import TestCase
from schemathesis.checks import not_a_server_error
from schemathesis.generation import GenerationMode
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)
from urllib3 import HTTPResponse

from apps.inspections.services.freeze_report import freeze_report
from apps.inspections.services.set_target import make_target
from apps.organisations.models import Member, Role
from apps.organisations.services.access_links import invite_member
from apps.organisations.services.competences import add_competence
from apps.organisations.services.contacts import make_contact
from apps.plants.tests.factories import small_site, take_samples
from jubark_core.door import OPERATIONS
from jubark_core.records.upgrade import VERSION
from jubark_core.tests import samples
from jubark_core.tests.profiles import IN_SLOW, examples
from tests.contract.test_api_description import SCHEMA
from tests.contract.test_who_may_what import TARGET

REQUEST_FIELDS = ("method", "url", "headers", "params", "data", "json", "files")
SET_HERE = ("content-length", "cookie", "accept-encoding")
CHECKS = [
    not_a_server_error,
    status_code_conformance,
    content_type_conformance,
    response_schema_conformance,
]
FEW = examples(1, 4)


def without_extra_keys(described: dict[str, Any]) -> dict[str, Any]:
    """The description with every object closed: an answer may hold no key that is not described."""
    for component in described["components"]["schemas"].values():
        if "properties" in component:
            component.setdefault("additionalProperties", False)
    return described


# no parameter, no body, no session
NOTHING_TO_SPOIL = {("get", "/api/first-run/"), ("get", "/api/ready/")}
FLORA = "/api/core/flora/"  # a file of the app, no operation of the door


class DescribedApi(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        items = take_samples(cls.at, VERSION)
        photo = next(e for e in samples.entries(VERSION) if e["kind"] == "photo")
        contact = make_contact(actor=cls.at.steward, given={"name": "A neighbour", "phone": "0100"})
        competence = add_competence(actor=cls.at.steward, member=cls.at.viewer, given={"name": "Felling"})
        link, _ = invite_member(actor=cls.at.owner, role="surveyor", shown_name="Ada")
        target = make_target(actor=cls.at.steward, site=cls.at.site, given=TARGET)
        report = freeze_report(actor=cls.at.steward, site=cls.at.site, given={"on": "2026-10-20"})
        cls.ids = {
            "target_id": str(target.thing),
            "report_id": str(report.id),
            "member_id": str(cls.at.viewer.id),
            "contact_id": str(contact.id),
            "competence_id": str(competence.id),
            "link_id": str(link.id),
            "site_id": str(cls.at.site.id),
            "block_id": str(cls.at.block.id),
            "plant_id": items[0]["id"],
            "photo_id": photo["id"],
            "taxon": "acer-rubrum",
            "part": "leaf",
        }

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.operations = sum(len(methods) for methods in yaml.safe_load(SCHEMA.read_text())["paths"].values())
        cls.schema = schemathesis.openapi.from_dict(without_extra_keys(yaml.safe_load(SCHEMA.read_text())))

    def ask(self, members: Sequence[Member], core: bool = False) -> None:
        """Every operation of the records, or every one of the core, with ids that are there, by requests made
        from its description, sound and not: in the fast lane as one member after the other, in the slow one
        each as every member.
        """
        self.clients = [Client() for _ in members]
        self.asked = itertools.count()  # in the fast lane one operation as one member, the next as the next
        for client, member in zip(self.clients, members, strict=True):
            client.force_login(member.user)
        asked = 0
        for found in self.schema.get_all_operations():
            operation = found.ok()
            if operation.path.startswith("/api/session/"):
                continue  # it would sign out; wrong sign-ins have tests of their own
            if (operation.path.startswith("/api/core/") and operation.path != FLORA) != core:
                continue
            fixed = {p.name: self.ids[p.name] for p in operation.path_parameters if p.name in self.ids}
            # requests that are not sound are made at ten times the cost: any_json has them in the fast lane
            for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)[: 2 if IN_SLOW else 1]:
                self.ask_one(operation, fixed, mode)
            asked += 1
        self.assertEqual(asked, len(OPERATIONS) if core else self.operations - len(OPERATIONS) - 3)

    def answer_to(self, case: Any, client: Client) -> requests.Response:
        """The answer of this process to a case, nothing of it stored, in the form the checks read."""
        kwargs = case.as_transport_kwargs(base_url="http://testserver")
        sent = requests.Request(**{k: v for k, v in kwargs.items() if k in REQUEST_FIELDS}).prepare()
        headers = {k: v for k, v in sent.headers.items() if k.lower() not in SET_HERE}
        with transaction.atomic():
            told = client.generic(
                sent.method or "GET",
                sent.path_url,
                data=sent.body or b"",
                content_type=headers.pop("Content-Type", "application/octet-stream"),
                headers=headers,
            )
            content = b"".join(told.streaming_content) if told.streaming else told.content
            transaction.set_rollback(True)
        answer = requests.Response()
        answer.status_code, answer._content, answer.request = told.status_code, content, sent
        answer.headers.update(dict(told.items()))
        answer.raw = HTTPResponse(
            headers=dict(told.items()), status=told.status_code, request_method=sent.method
        )
        return answer

    def ask_one(self, operation: Any, fixed: dict[str, Any], mode: GenerationMode) -> None:
        if mode is GenerationMode.NEGATIVE and (operation.method, operation.path) in NOTHING_TO_SPOIL:
            return
        try:
            strategy = operation.as_strategy(generation_mode=mode, path_parameters=fixed)
        except Exception as error:  # an operation without anything that can be spoilt has no unsound request
            self.assertIn("negative", str(error).lower())
            return

        @FEW
        @given(case=strategy)
        def asks(case: Any) -> None:
            one = self.clients[next(self.asked) % len(self.clients)]
            for client in self.clients if IN_SLOW else [one]:
                case.validate_response(self.answer_to(case, client), checks=CHECKS)

        with self.subTest(f"{operation.method} {operation.path}", mode=mode.name):
            asks()

    @tag("property")
    def test_the_core_whose_answers_know_no_role(self) -> None:
        self.ask([self.at.viewer], core=True)

    @tag("property")
    def test_the_records_as_each_role(self) -> None:
        members = [self.at.viewer, self.at.surveyor, self.at.steward, self.at.owner]
        self.assertEqual([m.role for m in members], [r.value for r in Role])
        self.ask(members)
