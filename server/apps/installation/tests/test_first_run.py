"""The first run: only while nobody is here, only with the token printed at start, once."""

from __future__ import annotations

import io
import threading
from typing import Any

from django.core.management import call_command
from django.db import connections
from django.test import Client, TestCase, TransactionTestCase, override_settings

from apps.installation.models import Installation
from apps.installation.services.first_run import NotTheFirst, first_run_token, take_first_run
from apps.organisations.models import Member, Organisation
from tests.emptied import EmptiedAfterwards

GIVEN = {"name": "Hill Trust", "username": "ada", "shown_name": "Ada", "password": "a long enough phrase"}
SITE = {"name": "Hill", "lat": 51.4, "lon": -2.4, "areas": ["GRB"], "hardiness_zone": "8b"}


def printed() -> str:
    out = io.StringIO()
    call_command("first_run", "https://trees.example.org/", stdout=out)
    return out.getvalue().strip()


class FirstRun(TestCase):
    def post(self, **given: Any) -> Any:
        return self.client.post("/api/first-run/", GIVEN | given, content_type="application/json")

    def test_from_the_printed_address_to_the_first_site(self) -> None:
        self.assertEqual(self.client.get("/api/first-run/").json(), {"needed": True})
        address, token = printed().split("#")
        self.assertEqual(address, "https://trees.example.org/first-run")
        answer = self.post(token=token)
        self.assertEqual((answer.status_code, answer.json()["role"]), (200, "owner"), answer.content)
        made = self.client.post("/api/sites/", SITE, content_type="application/json")
        self.assertEqual((made.status_code, made.json()["hardiness_zone"]), (201, "8b"), made.content)
        self.assertEqual(self.client.get("/api/first-run/").json(), {"needed": False})
        self.assertEqual(printed(), "")
        again = Client().post(
            "/api/first-run/", GIVEN | {"token": token, "name": "Thief"}, content_type="application/json"
        )
        self.assertEqual((again.status_code, again.json()["code"]), (409, "not_the_first"))
        self.assertEqual(Organisation.objects.count(), 1)

    def test_another_token_makes_nothing(self) -> None:
        right = first_run_token()
        for token in ("", "x" * 32, right.upper(), right[:-1], "é" * 32):
            answer = self.post(token=token)
            self.assertIn(answer.status_code, (400, 403), token)
        self.assertFalse(Organisation.objects.exists() or Member.objects.exists())

    def test_what_is_refused_leaves_the_token_good(self) -> None:
        token = first_run_token()
        for spoilt, field in (({"name": ""}, "name"), ({"password": "short"}, "password")):
            answer = self.post(token=token, **spoilt)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))
        self.assertFalse(Organisation.objects.exists())
        self.assertEqual(self.post(token=token).status_code, 200)

    def test_the_token_is_that_of_this_database_and_this_key(self) -> None:
        first = first_run_token()
        self.assertEqual(first_run_token(), first, "every process knows the same one")
        with override_settings(SECRET_KEY="another"):
            self.assertNotEqual(first_run_token(), first)
        Installation.objects.all().delete()  # a new database
        self.assertNotEqual(first_run_token(), first)

    def test_it_needs_the_pages_token(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        given = GIVEN | {"token": first_run_token()}
        answer = strict.post("/api/first-run/", given, content_type="application/json")
        self.assertEqual(answer.status_code, 403)
        self.assertFalse(Organisation.objects.exists())


class TwoAtOnce(EmptiedAfterwards, TransactionTestCase):
    def test_of_two_first_runs_at_once_one_is_the_first(self) -> None:
        token, told = first_run_token(), []
        together = threading.Barrier(2)

        def take(number: int) -> None:
            try:
                together.wait(10)
                take_first_run(
                    token=token, **(GIVEN | {"name": f"Trust {number}", "username": f"ada{number}"})
                )
                told.append("made")
            except NotTheFirst:
                told.append("not the first")
            finally:
                connections.close_all()

        threads = [threading.Thread(target=take, args=(n,)) for n in range(2)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join(30)
        self.assertEqual(sorted(told), ["made", "not the first"])
        self.assertEqual((Organisation.objects.count(), Member.objects.count()), (1, 1))
