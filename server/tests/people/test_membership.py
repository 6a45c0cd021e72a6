"""Roles, ends of access, leaving, and the devices of a member."""

from __future__ import annotations

import datetime
from typing import Any

from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import CommandError
from django.test import Client, TestCase
from django.utils import timezone

from apps.organisations.device_name import device_name
from apps.organisations.errors import LastOwner
from apps.organisations.models import AuditEvent, Competence, Member, Role, SignIn
from apps.organisations.services.change_member import change_member
from apps.organisations.services.competences import add_competence
from apps.organisations.services.end_membership import end_membership, leave_organisation
from apps.plants.tests.factories import a_plant, dbh, signed_in, small_site
from config.errors import BadInput

PASSWORD = "a-long-password"
FIREFOX = "Mozilla/5.0 (Android 14; Mobile; rv:128.0) Gecko/128.0 Firefox/128.0"


class People(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def device(self, member: Member, agent: str = FIREFOX, password: str = PASSWORD) -> Client:
        client = Client(HTTP_USER_AGENT=agent)
        given = {"username": member.user.username, "password": password}
        answer = client.post("/api/session/", given, content_type="application/json")
        self.assertEqual(answer.status_code, 200, answer.content)
        return client

    def second_owner(self) -> Member:
        user = User.objects.create_user("second", password=PASSWORD)
        return Member.objects.create(
            organisation=self.at.organisation, user=user, role=Role.OWNER, shown_name="Second"
        )


class TheLastOwner(People):
    def test_cannot_leave_be_let_go_be_demoted_or_be_given_an_end(self) -> None:
        tomorrow = (timezone.now() + datetime.timedelta(days=1)).date().isoformat()
        owner = self.at.owner
        for act in (
            lambda: leave_organisation(actor=owner, password=PASSWORD),
            lambda: end_membership(actor=owner, member=owner),
            lambda: change_member(actor=owner, member=owner, changes={"role": "steward"}),
            lambda: change_member(actor=owner, member=owner, changes={"access_until": tomorrow}),
        ):
            self.assertRaises(LastOwner, act)
        owner.refresh_from_db()
        self.assertEqual((owner.role, owner.access_until, owner.left_at), ("owner", None, None))
        answer = signed_in(owner).post("/api/account/leave/", {"password": PASSWORD})
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "last_owner"))

    def test_an_owner_whose_access_ends_does_not_count_and_a_second_one_frees_the_first(self) -> None:
        second = self.second_owner()
        later = (timezone.now() + datetime.timedelta(days=9)).date().isoformat()
        change_member(actor=self.at.owner, member=second, changes={"access_until": later})
        self.assertRaises(LastOwner, leave_organisation, actor=self.at.owner, password=PASSWORD)
        change_member(actor=self.at.owner, member=second, changes={"access_until": None})
        leave_organisation(actor=self.at.owner, password=PASSWORD)
        self.assertRaises(LastOwner, leave_organisation, actor=second, password=PASSWORD)

    def test_an_owner_of_another_organisation_does_not_count(self) -> None:
        small_site("Other organisation")
        self.assertRaises(LastOwner, leave_organisation, actor=self.at.owner, password=PASSWORD)


class Leaving(People):
    def test_who_leaves_becomes_former_member_n_and_what_they_recorded_stays(self) -> None:
        plant = a_plant(self.at, dbh(30))
        add_competence(
            actor=self.at.steward, member=self.at.surveyor, given={"name": "Felling", "number": "77"}
        )
        before = self.at.surveyor.shown_name
        device = self.device(self.at.surveyor)
        answer = device.post("/api/account/leave/", {"password": PASSWORD}, content_type="application/json")
        self.assertEqual(answer.status_code, 204, answer.content)
        self.assertEqual(device.get("/api/session/").status_code, 401)
        [visit] = signed_in(self.at.viewer).get(f"/api/plants/{plant}/").json()["visits"]
        self.assertEqual(visit["observer"], "former member 1")
        self.assertEqual([e["observer"] for e in visit["entries"]], ["former member 1"])
        told = signed_in(self.at.owner).get("/api/people/").json()
        [gone] = [p for p in told if p["left_at"]]
        self.assertEqual(
            (gone["shown_name"], gone["username"], gone["has_access"]), ("former member 1", "", False)
        )
        self.assertEqual(Competence.objects.get().number, "")
        self.assertFalse(User.objects.filter(username=f"{before}-of-test-organisation").exists())
        # the next one is the second, and the first stays the first
        end_membership(actor=self.at.owner, member=self.at.viewer)
        self.assertEqual(Member.objects.get(pk=self.at.viewer.pk).shown_name, "former member 2")
        with self.assertRaises(BadInput):
            end_membership(actor=self.at.owner, member=self.at.viewer)

    def test_a_wrong_password_changes_nothing(self) -> None:
        device = self.device(self.at.surveyor)
        answer = device.post("/api/account/leave/", {"password": "wrong"}, content_type="application/json")
        self.assertEqual((answer.status_code, answer.json()["code"]), (403, "wrong_password"))
        self.assertEqual(device.get("/api/session/").status_code, 200)

    def test_access_that_has_ended_lets_nobody_in_and_keeps_the_member(self) -> None:
        device = self.device(self.at.surveyor)
        yesterday = timezone.now().date() - datetime.timedelta(days=1)
        Member.objects.filter(pk=self.at.surveyor.pk).update(access_until=yesterday)
        for address in ("/api/session/", "/api/blocks/", "/api/inventory/"):
            self.assertEqual(device.get(address).status_code, 401, address)
        given = {"username": self.at.surveyor.user.username, "password": PASSWORD}
        answer = Client().post("/api/session/", given, content_type="application/json")
        self.assertEqual((answer.status_code, answer.json()["code"]), (403, "access_ended"))
        Member.objects.filter(pk=self.at.surveyor.pk).update(access_until=timezone.now().date())
        self.assertEqual(device.get("/api/blocks/").status_code, 200, "the last day is one of access")

    def test_an_end_in_the_past_or_a_role_that_is_none_is_refused_with_its_field(self) -> None:
        owner = signed_in(self.at.owner)
        for change, field in (
            ({"access_until": "2020-01-01"}, "access_until"),
            ({"access_until": "soon"}, "access_until"),
            ({"role": "king"}, "role"),
        ):
            answer = owner.patch(f"/api/people/{self.at.viewer.id}/", change)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))


class Devices(People):
    def test_a_member_sees_and_ends_their_own_and_nobody_elses(self) -> None:
        phone, desk = self.device(self.at.surveyor), self.device(self.at.surveyor, "curl/8")
        stranger = self.device(self.at.viewer)
        listed = desk.get("/api/account/sign-ins/").json()
        self.assertEqual(
            {(s["device"], s["this_one"]) for s in listed},
            {("Firefox on Android", False), ("an unknown browser", True)},
        )
        [other] = [s["id"] for s in listed if not s["this_one"]]
        self.assertEqual(stranger.delete(f"/api/account/sign-ins/{other}/").status_code, 404)
        self.assertEqual(phone.get("/api/session/").status_code, 200)
        self.assertEqual(desk.delete(f"/api/account/sign-ins/{other}/").status_code, 204)
        self.assertEqual(
            (phone.get("/api/session/").status_code, desk.get("/api/session/").status_code), (401, 200)
        )

    def test_an_owner_signs_a_lost_device_out(self) -> None:
        phone = self.device(self.at.surveyor)
        owner = signed_in(self.at.owner)
        shown = {p["id"]: p["devices"] for p in owner.get("/api/people/").json()}
        self.assertEqual(shown[str(self.at.surveyor.id)], 1)
        self.assertEqual(owner.delete(f"/api/people/{self.at.surveyor.id}/sign-ins/").json(), {"ended": 1})
        self.assertEqual(phone.get("/api/session/").status_code, 401)

    def test_a_changed_password_leaves_only_the_device_it_was_changed_on(self) -> None:
        phone, desk = self.device(self.at.surveyor), self.device(self.at.surveyor)
        change = {"old": PASSWORD, "new": "a quite new phrase"}
        self.assertEqual(self.post(desk, {**change, "old": "no"}).status_code, 403)
        self.assertEqual(self.post(desk, {**change, "new": "12345678"}).json()["field"], "password")
        self.assertEqual(self.post(desk, change).status_code, 200)
        self.assertEqual(
            (phone.get("/api/session/").status_code, desk.get("/api/session/").status_code), (401, 200)
        )
        self.assertEqual(SignIn.objects.filter(member=self.at.surveyor).count(), 1)
        self.assertEqual(
            AuditEvent.objects.order_by("id").values_list("act", flat=True).last(), "password_changed"
        )
        self.device(self.at.surveyor, password="a quite new phrase")

    @staticmethod
    def post(device: Client, given: dict[str, str]) -> Any:
        return device.post("/api/account/password/", given, content_type="application/json")

    def test_signing_in_again_or_out_leaves_no_device_behind(self) -> None:
        phone = self.device(self.at.surveyor)
        given = {"username": self.at.surveyor.user.username, "password": PASSWORD}
        phone.post("/api/session/", given, content_type="application/json")
        self.assertEqual(SignIn.objects.count(), 1)
        phone.delete("/api/session/")
        self.assertEqual(SignIn.objects.count(), 0)

    def test_what_a_device_calls_itself(self) -> None:
        webkit = "AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0 Safari/537.36"
        for agent, name in (
            (FIREFOX, "Firefox on Android"),
            (f"Mozilla/5.0 (Windows NT 10.0) {webkit} Edg/120.0", "Edge on Windows"),
            (f"Mozilla/5.0 (X11; Linux x86_64) {webkit}", "Chrome on Linux"),
            (
                "Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) Version/17.0 Safari/604.1",
                "Safari on iPhone",
            ),
            ("", "an unknown browser"),
        ):
            self.assertEqual(device_name(agent), name)


class Audit(People):
    def test_who_did_what_is_told_to_owners_alone_and_holds_no_names_of_its_own(self) -> None:
        self.device(self.at.surveyor)
        bad = {"username": self.at.surveyor.user.username, "password": "wrong"}
        Client().post("/api/session/", bad, content_type="application/json")
        block = self.at.block.id
        signed_in(self.at.viewer).get(f"/api/blocks/{block}/export.csv")
        end_membership(actor=self.at.owner, member=self.at.surveyor)
        rows = signed_in(self.at.owner).get("/api/audit/").json()["rows"]
        told = [(r["actor"], r["act"], r["subject"]) for r in rows]
        self.assertEqual(
            told,
            [
                ("owner", "membership_ended", "former member 1"),
                ("viewer", "export_read", ""),
                ("", "sign_in_refused", "former member 1"),
                ("former member 1", "signed_in", "former member 1"),
            ],
        )
        self.assertEqual((rows[1]["thing"], rows[1]["detail"]["format"]), (str(block), "CSV"))
        for member in (self.at.viewer, self.at.steward):
            self.assertEqual(signed_in(member).get("/api/audit/").status_code, 403)

    def test_pages_and_days(self) -> None:
        AuditEvent.objects.bulk_create(
            [
                AuditEvent(organisation=self.at.organisation, actor=self.at.owner, act="signed_in")
                for _ in range(205)
            ]
        )
        owner, seen, before = signed_in(self.at.owner), [], ""
        for _ in range(5):
            page = owner.get(f"/api/audit/{before}").json()
            seen += [row["id"] for row in page["rows"]]
            if page["before"] is None:
                break
            before = f"?before={page['before']}"
        self.assertEqual((len(seen), seen), (205, sorted(seen, reverse=True)))
        self.assertEqual(owner.get("/api/audit/?on=2001-01-01").json(), {"rows": [], "before": None})
        for query in ("before=x", "on=soon", "act=flew"):
            self.assertEqual(owner.get(f"/api/audit/?{query}").status_code, 400, query)


class OnTheMachine(People):
    def test_a_password_is_reset_and_every_device_signed_out(self) -> None:
        from unittest.mock import patch

        phone = self.device(self.at.surveyor)
        name = self.at.surveyor.user.username
        with patch.dict("os.environ", {"JUBARK_PASSWORD": "short"}), self.assertRaises(CommandError):
            call_command("reset_password", name)
        self.assertEqual(phone.get("/api/session/").status_code, 200)
        with patch.dict("os.environ", {"JUBARK_PASSWORD": "a quite new phrase"}):
            call_command("reset_password", name)
            with self.assertRaises(CommandError):
                call_command("reset_password", "nobody")
        self.assertEqual(phone.get("/api/session/").status_code, 401)
        self.device(self.at.surveyor, password="a quite new phrase")


class Competences(People):
    def test_days_are_counted_with_the_first_and_the_last(self) -> None:
        day = datetime.date
        paper = Competence(valid_from=day(2025, 1, 1), valid_until=day(2026, 6, 30))
        for on, valid in (
            (day(2024, 12, 31), False),
            (day(2025, 1, 1), True),
            (day(2026, 6, 30), True),
            (day(2026, 7, 1), False),
        ):
            self.assertEqual(paper.valid_on(on), valid, on)
        self.assertTrue(Competence().valid_on(day(2026, 1, 1)))

    def test_bad_papers_are_refused_with_their_field(self) -> None:
        steward = signed_in(self.at.steward)
        for given, field in (
            ({}, "name"),
            ({"name": "x", "valid_from": "2026-02-01", "valid_until": "2026-01-01"}, "valid_until"),
            ({"name": "x", "kind": "rumour"}, "kind"),
            ({"name": "x", "colour": "red"}, "colour"),
        ):
            answer = steward.post(f"/api/people/{self.at.viewer.id}/competences/", given)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), given)
        self.assertEqual(Competence.objects.count(), 0)
