"""Links that let somebody in: single use, 72 hours, hashed; stolen, used, expired, withdrawn."""

from __future__ import annotations

import datetime
from typing import Any
from unittest import mock

from django.contrib.auth.models import User
from django.db import connection
from django.test import Client, TestCase
from django.utils import timezone

from apps.organisations.api.link_views import LinkThrottle
from apps.organisations.models import AccessLink, AuditEvent, Member, Role
from apps.organisations.services.access_links import invite_member, make_password_link, revoke_link
from apps.organisations.services.change_member import change_member
from apps.organisations.services.end_membership import end_membership
from apps.plants.tests.factories import signed_in, small_site

NEW = {"username": "ada", "shown_name": "Ada", "password": "a long enough phrase"}


class Links(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def post(self, door: str, **given: Any) -> Any:
        return self.client.post(f"/api/links/{door}/", given, content_type="application/json")

    def invited(self, **more: Any) -> str:
        answer = signed_in(self.at.owner).post("/api/links/", {"role": "surveyor", **more})
        self.assertEqual(answer.status_code, 201, answer.content)
        return str(answer.json()["token"])

    def refused(self, answer: Any, says: str) -> None:
        self.assertEqual((answer.status_code, answer.json()["code"]), (410, "link_unusable"), answer.content)
        self.assertIn(says, answer.json()["message"])

    def test_who_joins_by_a_link_has_its_role_and_end_and_is_signed_in(self) -> None:
        last = (timezone.now() + datetime.timedelta(days=30)).date().isoformat()
        token = self.invited(shown_name="Ada", access_until=last)
        shown = self.post("look", token=token).json()
        self.assertEqual(
            (shown["purpose"], shown["role"], shown["shown_name"], shown["access_until"]),
            ("invitation", "surveyor", "Ada", last),
        )
        answer = self.post("join", token=token, **NEW)
        self.assertEqual((answer.status_code, answer.json()["role"]), (200, "surveyor"))
        self.assertEqual(self.client.get("/api/session/").json()["username"], "ada")
        made = Member.objects.get(user__username="ada")
        self.assertEqual((made.organisation, made.access_until.isoformat()), (self.at.organisation, last))

    def test_a_link_works_once_and_the_second_is_told_when_the_first_used_it(self) -> None:
        token = self.invited()
        self.assertEqual(self.post("join", token=token, **NEW).status_code, 200)
        for door in ("look", "join"):
            self.refused(self.post(door, token=token, **(NEW | {"username": "thief"})), "was used on")
        self.assertFalse(User.objects.filter(username="thief").exists())

    def test_no_token_stands_in_the_database_or_in_any_list(self) -> None:
        token = self.invited()
        with connection.cursor() as cursor:
            cursor.execute("SELECT string_agg(l::text, ' ') FROM organisations_accesslink l")
            self.assertNotIn(token, cursor.fetchone()[0])
        told = signed_in(self.at.owner).get("/api/links/").content.decode()
        self.assertNotIn(token, told)
        self.assertNotIn(AccessLink.objects.get().token_hash, told)
        self.assertNotIn(token, str(list(AuditEvent.objects.values_list("detail", flat=True))))

    def test_it_is_good_for_72_hours_and_not_a_second_longer(self) -> None:
        token = self.invited()
        link = AccessLink.objects.get()
        self.assertEqual(round((link.expires_at - link.issued_at).total_seconds()), 72 * 3600)
        AccessLink.objects.update(expires_at=timezone.now() + datetime.timedelta(seconds=30))
        self.assertEqual(self.post("look", token=token).status_code, 200)
        AccessLink.objects.update(expires_at=timezone.now())
        self.refused(self.post("join", token=token, **NEW), "has expired")
        self.assertFalse(User.objects.filter(username="ada").exists())

    def test_withdrawn_unknown_or_of_another_purpose_opens_nothing(self) -> None:
        token = self.invited()
        self.refused(self.post("password", token=token, password="a long enough phrase"), "is for invitation")
        revoke_link(actor=self.at.owner, link=AccessLink.objects.get())
        self.refused(self.post("join", token=token, **NEW), "was withdrawn")
        for unknown in ("", "x" * 100, token[:-1], token + "x"):
            answer = self.post("join", token=unknown, **NEW)
            self.assertIn(answer.status_code, (400, 410), unknown)

    def test_a_link_dies_with_the_power_of_who_made_it(self) -> None:
        second = Member.objects.create(
            organisation=self.at.organisation,
            user=User.objects.create_user("second-owner"),
            role=Role.OWNER,
            shown_name="Second",
        )
        _, token = invite_member(actor=second, role="owner")
        change_member(actor=self.at.owner, member=second, changes={"role": "viewer"})
        self.refused(self.post("join", token=token, **NEW), "no owner any more")
        change_member(actor=self.at.owner, member=second, changes={"role": "owner"})
        end_membership(actor=self.at.owner, member=second)
        self.refused(self.post("join", token=token, **NEW), "was withdrawn")

    def test_what_is_refused_leaves_the_link_good_and_makes_nobody(self) -> None:
        token = self.invited()
        before = Member.objects.count()
        for spoilt, field in (
            ({"username": self.at.viewer.user.username.upper()}, "username"),
            ({"password": "short"}, "password"),
            ({"password": "password123"}, "password"),
            ({"shown_name": " "}, "shown_name"),
        ):
            answer = self.post("join", token=token, **(NEW | spoilt))
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), answer.content)
        self.assertEqual(Member.objects.count(), before)
        self.assertEqual(self.post("join", token=token, **NEW).status_code, 200)

    def test_a_new_password_by_a_link_signs_every_device_out(self) -> None:
        device = Client()
        sign_in = {"username": self.at.surveyor.user.username, "password": "a-long-password"}
        device.post("/api/session/", sign_in, content_type="application/json")
        first = (
            signed_in(self.at.owner).post(f"/api/people/{self.at.surveyor.id}/password-link/").json()["token"]
        )
        _, token = make_password_link(actor=self.at.owner, member=self.at.surveyor)
        self.refused(self.post("look", token=first), "was withdrawn")  # the later one takes its place
        answer = self.post("password", token=token, password="a quite new phrase")
        self.assertEqual(answer.json()["username"], sign_in["username"])
        self.assertEqual(device.get("/api/session/").status_code, 401)
        again = device.post("/api/session/", sign_in, content_type="application/json")
        self.assertEqual(again.status_code, 401)
        self.refused(self.post("password", token=token, password="an even newer phrase"), "was used on")

    def test_only_who_errs_is_slowed_down(self) -> None:
        from django.core.cache import cache

        cache.clear()
        self.addCleanup(cache.clear)
        with mock.patch.object(LinkThrottle, "rate", "2/min", create=True), self.settings(TRUSTED_PROXIES=1):
            seen = [
                self.client.post(
                    "/api/links/look/",
                    {"token": "guess"},
                    content_type="application/json",
                    HTTP_X_FORWARDED_FOR=address,
                ).status_code
                for address in ("203.0.113.9", "203.0.113.9", "203.0.113.9", "198.51.100.7")
            ]
        self.assertEqual(seen, [410, 410, 429, 410])

    def test_a_link_needs_the_pages_token(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        for door in ("look", "join", "password"):
            answer = strict.post(f"/api/links/{door}/", {"token": "x"}, content_type="application/json")
            self.assertEqual(answer.status_code, 403, door)
