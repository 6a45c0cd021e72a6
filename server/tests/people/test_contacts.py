"""People outside: named by id, erased without touching a record."""

from __future__ import annotations

from django.db import connection
from django.test import TestCase

from apps.organisations.models import Contact
from apps.plants.models import Entry, Visit
from apps.plants.tests.factories import (
    a_plant,
    dbh,
    entry,
    plant_item,
    send,
    signed_in,
    small_site,
    visit_item,
)


class Contacts(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def observed(self, observer: str) -> str:
        plant = plant_item(self.at.block)
        visit = visit_item(plant["id"], dbh(30), observer=observer)
        told = send(signed_in(self.at.surveyor), plant, visit)
        self.assertEqual([a["answer"] for a in told], ["accepted", "accepted"])
        return str(plant["id"])

    def shown(self, plant: str) -> tuple[str, str]:
        [visit] = signed_in(self.at.viewer).get(f"/api/plants/{plant}/").json()["visits"]
        self.assertEqual({e["observer"] for e in visit["entries"]}, {visit["observer"]})
        return visit["observer"], visit["entered_by"]

    def test_an_observer_is_a_member_a_contact_or_the_author(self) -> None:
        self.assertEqual(self.shown(self.observed("")), ("surveyor", ""))
        self.assertEqual(self.shown(self.observed("surveyor")), ("surveyor", ""))
        self.assertEqual(self.shown(self.observed("steward")), ("steward", "surveyor"))
        self.assertEqual(Contact.objects.count(), 0)
        for _ in range(2):  # of one name there is one contact
            self.assertEqual(self.shown(self.observed("A Neighbour")), ("A Neighbour", "surveyor"))
        self.assertEqual([c.name for c in Contact.objects.all()], ["A Neighbour"])

    def test_one_entry_may_have_another_observer(self) -> None:
        plant = plant_item(self.at.block)
        other = {**entry("note", text="seen from the road"), "observer": "A Driver"}
        send(signed_in(self.at.surveyor), plant, visit_item(plant["id"], other, dbh(30)))
        [visit] = signed_in(self.at.viewer).get(f"/api/plants/{plant['id']}/").json()["visits"]
        told = {e["kind"]: e["observer"] for e in visit["entries"]}
        self.assertEqual(told, {"note": "A Driver", "measurement": "surveyor"})

    def test_erasing_leaves_every_record_and_nothing_of_the_person(self) -> None:
        plant = self.observed("Clara Outside")
        contact = Contact.objects.get()
        steward = signed_in(self.at.steward)
        steward.patch(f"/api/contacts/{contact.id}/", {"phone": "0100 555", "address": "Lower Mill"})
        before = (Visit.objects.count(), Entry.objects.count())
        erased = steward.delete(f"/api/contacts/{contact.id}/").json()
        self.assertEqual((erased["name"], erased["phone"], erased["address"]), ("", "", ""))
        day = erased["erased_at"][:10]
        self.assertEqual(self.shown(plant), (f"erased contact, {day}", "surveyor"))
        self.assertEqual((Visit.objects.count(), Entry.objects.count()), before)
        for table in connection.introspection.table_names():
            with connection.cursor() as cursor:
                sought = [["%Clara%", "%0100 5%"]]
                cursor.execute(f'SELECT count(*) FROM "{table}" t WHERE t::text LIKE ANY (%s)', sought)
                self.assertEqual(cursor.fetchone()[0], 0, table)
        for again in (steward.delete, lambda a: steward.patch(a, {"name": "Clara Outside"})):
            answer = again(f"/api/contacts/{contact.id}/")
            self.assertEqual((answer.status_code, answer.json()["code"]), (409, "already_erased"))
        # the same name later is another contact, not the erased one come back
        self.observed("Clara Outside")
        self.assertEqual(Contact.objects.filter(erased_at=None).count(), 1)

    def test_files_out_hold_the_name_while_it_is_there(self) -> None:
        self.observed("Clara Outside")
        client = signed_in(self.at.viewer)
        address = f"/api/blocks/{self.at.block.id}/export.csv"
        self.assertIn(b"Clara Outside", b"".join(client.get(address).streaming_content))
        signed_in(self.at.steward).delete(f"/api/contacts/{Contact.objects.get().id}/")
        self.assertNotIn(b"Clara", b"".join(client.get(address).streaming_content))

    def test_contacts_are_no_ones_but_stewards_and_of_their_organisation(self) -> None:
        a_plant(self.at)
        signed_in(self.at.steward).post("/api/contacts/", {"name": "A Neighbour"})
        for member in (self.at.viewer, self.at.surveyor):
            self.assertEqual(signed_in(member).get("/api/contacts/").status_code, 403)
        stranger = small_site("Other organisation")
        self.assertEqual(signed_in(stranger.steward).get("/api/contacts/").json(), [])
        # an observer of the same name there is their own contact
        plant = plant_item(stranger.block)
        send(signed_in(stranger.surveyor), plant, visit_item(plant["id"], dbh(3), observer="A Neighbour"))
        self.assertEqual(Contact.objects.filter(name="A Neighbour").count(), 2)

    def test_bad_contacts_are_refused_with_their_field(self) -> None:
        steward = signed_in(self.at.steward)
        for given, field in (
            ({}, "name"),
            ({"name": ""}, "name"),
            ({"name": "x" * 81}, "name"),
            ({"name": "x", "email": "nobody"}, "email"),
            ({"name": "x", "email": "a b@example.org"}, "email"),
            ({"name": "x", "age": 7}, "age"),
            ([], "body"),
        ):
            answer = steward.post("/api/contacts/", given)
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, field), given)
        self.assertEqual(Contact.objects.count(), 0)
