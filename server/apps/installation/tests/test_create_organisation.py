"""F17: outside the demonstration too there is a way to make an organisation and its people."""

from __future__ import annotations

import io
import os
from unittest.mock import patch

from django.core.management import call_command
from django.core.management.base import CommandError
from django.test import TestCase

from apps.organisations.models import Member, Organisation


class CreateOrganisation(TestCase):
    def make(self, *arguments: str, password: str = "a long enough password") -> str:
        out = io.StringIO()
        with patch.dict(os.environ, {"JUBARK_PASSWORD": password}):
            call_command("create_organisation", *arguments, stdout=out)
        return out.getvalue()

    def test_an_owner_and_then_a_surveyor_can_sign_in(self) -> None:
        self.assertIn("Ada is owner of Hill Trust", self.make("Hill Trust", "ada", "--shown-name", "Ada"))
        self.make("Hill Trust", "ben", "--role", "surveyor")
        self.assertEqual((Organisation.objects.count(), Member.objects.count()), (1, 2))
        given = {"username": "ben", "password": "a long enough password"}
        answer = self.client.post("/api/session/", given, content_type="application/json")
        self.assertEqual(
            (answer.status_code, answer.json()["role"], answer.json()["organisation_name"]),
            (200, "surveyor", "Hill Trust"),
        )

    def test_what_cannot_be_used_is_named_and_nothing_is_half_made(self) -> None:
        self.make("Hill Trust", "ada")
        for arguments, password, said in (
            (("Other", "ada"), "a long enough password", "username"),
            (("Other", "eve"), "short", "password"),
            (("Other", "eve"), "password123", "password"),
            (("", "eve"), "a long enough password", "name"),
            (("x" * 121, "eve"), "a long enough password", "name"),
            (("a\x00b", "eve"), "a long enough password", "name"),
        ):
            with self.subTest(said=said, arguments=arguments), self.assertRaises(CommandError) as caught:
                self.make(*arguments, password=password)
            self.assertTrue(str(caught.exception).startswith(said), caught.exception)
        self.assertEqual((Organisation.objects.count(), Member.objects.count()), (1, 1))
