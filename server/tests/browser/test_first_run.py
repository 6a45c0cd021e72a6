"""From an empty database to the first tree, and the people who come after the first."""

from __future__ import annotations

import json
import re
from typing import Any

from django.test import tag
from playwright.sync_api import Page, expect

from apps.installation.services.first_run import first_run_token
from apps.organisations.models import Contact, Member, Organisation
from apps.plants.models import Plant
from apps.plants.tests.factories import a_plant, dbh, entry
from apps.sites.models import Block, Site
from tests.browser.base import BrowserTestCase

PASSWORD = "a very long phrase"


def draw(page: Page, *corners: tuple[float, float]) -> None:
    """Tap places of the plan, each as a share of its width and height."""
    plan = page.get_by_role("application")
    expect(plan).to_have_attribute("aria-busy", "false")
    box = plan.bounding_box()
    assert box is not None
    for i, (x, y) in enumerate(corners, start=1):
        page.mouse.click(box["x"] + box["width"] * x, box["y"] + box["height"] * y)
        told = "1 corner" if i == 1 else f"{i} corners"
        expect(page.get_by_role("status").filter(has_text=told).first).to_be_visible()


def signed_out(page: Page) -> None:
    """The page says that the session has ended."""
    expect(page.get_by_text("You are signed out.").or_(page.get_by_label("Password")).first).to_be_visible()


class FromNothing(BrowserTestCase):
    def make_site(self) -> None:
        """Nothing: an empty database."""

    def refused(self, says: str) -> None:
        expect(self.page.get_by_role("alert").filter(has_text=says).first).to_be_visible()

    def test_to_the_first_tree(self) -> None:
        page = self.page
        page.goto(self.live_server_url)
        expect(page.get_by_text("There is no organisation here yet")).to_be_visible()
        self.accessible("Sign in before the first run")
        page.goto(f"{self.live_server_url}/first-run")
        expect(page.get_by_text("This address lacks its token")).to_be_visible()
        # a token that somebody guessed
        page.goto(f"{self.live_server_url}/first-run#{'0' * 32}")
        page.reload()
        self.fill_in("Thief")
        self.refused("This is not the token of the first run")
        self.assertFalse(Organisation.objects.exists())
        # the one that is printed
        page.goto(f"{self.live_server_url}/first-run#{first_run_token()}")
        page.reload()
        self.accessible("The first run")
        self.fill_in("Hill Trust", password="password")
        self.refused("too common")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Make the organisation").click()
        self.first_site()
        self.first_block()
        self.first_tree()
        page.goto(f"{self.live_server_url}/first-run#{first_run_token()}")
        expect(page.get_by_text("has an organisation already")).to_be_visible()

    def fill_in(self, organisation: str, password: str = PASSWORD) -> None:
        page = self.page
        page.get_by_label("Organisation").fill(organisation)
        page.get_by_label("Name others see").fill("Ada")
        page.get_by_label("Name to sign in with").fill("ada")
        page.get_by_label("Password").fill(password)
        page.get_by_role("button", name="Make the organisation").click()

    def first_site(self) -> None:
        page = self.page
        expect(page.get_by_role("heading", name="The first site")).to_be_visible()
        page.get_by_role("button", name="Make the site").click()
        self.refused("name: 'nothing' is not allowed")
        page.reload()  # in between: the organisation is made, the page goes on
        page.get_by_label("Name", exact=True).fill("Hollow Park")
        page.get_by_label("Latitude").fill("51.4")
        page.get_by_label("Longitude").fill("-2.4")
        area = page.get_by_label("Botanical areas")
        area.press_sequentially("GRB")
        area.press("Enter")
        area.fill("Ireland")
        page.get_by_role("button", name="Take off Ireland").click()
        page.get_by_label("Hardiness zone").select_option("8b")
        page.get_by_label("Region").select_option("uk")
        page.get_by_label("Breast height").select_option("1.5")
        self.accessible("New site")
        page.get_by_role("button", name="Make the site").click()
        expect(page.get_by_role("heading", name="New block")).to_be_visible()
        site = Site.objects.get()
        self.assertEqual(
            (site.name, site.lat, site.areas, site.hardiness_zone, site.region, site.breast_height_m),
            ("Hollow Park", 51.4, ["GRB"], "8b", "uk", 1.5),
        )

    def first_block(self) -> None:
        page = self.page
        draw(page, (0.3, 0.3), (0.7, 0.3), (0.7, 0.7), (0.5, 0.9))
        page.get_by_role("button", name="Undo corner").click()
        expect(page.get_by_role("status").filter(has_text="3 corners").first).to_be_visible()
        page.get_by_label("Name", exact=True).fill("Front lawn")
        self.accessible("New block")
        page.get_by_role("button", name="Make the block").click()
        expect(page.get_by_role("heading", name="Front lawn")).to_be_visible()
        block = Block.objects.get()
        self.assertEqual(len(block.boundary.coords[0]), 4)
        self.assertAlmostEqual(block.boundary.centroid.y, 51.4, delta=0.002)

    def first_tree(self) -> None:
        page = self.page
        page.get_by_role("button", name="New tree").click()
        plan = page.get_by_role("application")
        expect(plan).to_have_attribute("aria-busy", "false")
        plan.click(position={"x": 420, "y": 300})
        expect(page.get_by_text("Tap again to move it")).to_be_visible()
        page.get_by_role("button", name="Save and continue").click()
        expect(page.get_by_role("heading", name="Where and when")).to_be_visible()
        self.becomes(Plant.objects.count, 1)


class People(BrowserTestCase):
    def link(self, page: Page) -> str:
        made: str = page.locator("[data-link]").inner_text()
        page.keyboard.press("Escape")
        return made

    def test_somebody_is_invited_comes_and_goes(self) -> None:
        page = self.sign_in(self.at.owner)
        page.get_by_role("button", name="Account").first.click()
        page.get_by_role("link", name="People", exact=True).click()
        page.get_by_role("button", name="Invite somebody").click()
        page.get_by_role("radio", name=re.compile("^surveyor")).click()
        page.get_by_label("Name, as a suggestion").fill("Ben")
        self.accessible("Invite somebody")
        page.get_by_role("button", name="Make the link").click()
        self.accessible("A link just made")
        link = self.link(page)
        expect(page.get_by_text("Invitation as surveyor for Ben")).to_be_visible()
        # Ben, on his own phone
        phone = self.open_browser(390, 844)
        phone.goto(link)
        expect(phone.get_by_text("You are invited to")).to_be_visible()
        self.accessible("Join", phone)
        expect(phone.get_by_label("Name others see")).to_have_value("Ben")
        phone.get_by_label("Name to sign in with").fill("ben")
        phone.get_by_label("Password").fill(PASSWORD)
        phone.get_by_role("button", name="Join").click()
        expect(phone.get_by_role("heading", name="What shows now")).to_be_visible()
        self.assertEqual(Member.objects.get(user__username="ben").role, "surveyor")
        # whoever has the link after him
        thief = self.open_browser(390, 844)
        thief.goto(link)
        expect(thief.get_by_role("alert").filter(has_text="This link was used on")).to_be_visible()
        # a paper of his, and the end of his membership
        page.reload()
        page.get_by_role("button", name=re.compile("Ben")).click()
        page.get_by_role("button", name="Add a licence or qualification").click()
        page.get_by_label("Name", exact=True).fill("Basic tree inspection")
        page.get_by_label("Valid until").fill("2026-01-01")
        self.accessible("A member")
        page.get_by_role("button", name="Save competence").click()
        expect(page.get_by_text("expired 2026-01-01")).to_be_visible()
        page.get_by_role("button", name="End the membership").click()
        expect(page.get_by_role("alert").filter(has_text="This cannot be undone")).to_be_visible()
        page.get_by_role("button", name="End the membership for good").click()
        expect(page.get_by_role("heading", name="Former members")).to_be_visible()
        phone.reload()
        signed_out(phone)

    @tag("slow")
    def test_a_forgotten_password_and_a_lost_device(self) -> None:
        lost = self.sign_in(self.at.surveyor, self.open_browser(390, 844))
        page = self.sign_in(self.at.owner, at="")
        page.goto(f"{self.live_server_url}/people")
        page.get_by_role("button", name=re.compile("^surveyor")).click()
        page.get_by_role("button", name="Sign out the device").click()
        expect(page.get_by_role("button", name="Sign out the device")).to_have_count(0)
        lost.reload()
        signed_out(lost)
        page.get_by_role("button", name="Make a link for a new password").click()
        link = self.link(page)
        found = self.open_browser(390, 844)
        found.goto(link)
        expect(found.get_by_text("A new password for")).to_be_visible()
        self.accessible("A new password", found)
        found.get_by_label("New password").fill(PASSWORD)
        found.get_by_role("button", name="Set the password").click()
        expect(found.get_by_role("heading", name="What shows now")).to_be_visible()
        found.goto(f"{self.live_server_url}/account")
        expect(found.get_by_text("(this one)")).to_be_visible()
        found.get_by_label("Present password").fill("not it")
        found.get_by_label("New password").fill("another long phrase")
        found.get_by_role("button", name="Change password").click()
        expect(found.get_by_role("alert").filter(has_text="Wrong password")).to_be_visible()
        found.get_by_label("Present password").fill(PASSWORD)
        found.get_by_role("button", name="Change password").click()
        expect(found.get_by_text("The password is changed")).to_be_visible()

    def test_the_last_owner_stays(self) -> None:
        page = self.sign_in(self.at.owner, at="")
        page.goto(f"{self.live_server_url}/account")
        page.get_by_role("button", name="Leave the organisation").click()
        page.get_by_label("Your password").fill("a-long-password")
        page.get_by_role("button", name="Leave for good").click()
        expect(page.get_by_role("alert").filter(has_text="This is the last owner")).to_be_visible()

    def test_who_leaves_takes_what_was_read_off_the_device(self) -> None:
        page = self.sign_in(self.at.surveyor, at="")
        page.goto(f"{self.live_server_url}/account")
        page.get_by_role("button", name="Leave the organisation").click()
        page.get_by_label("Your password").fill("a-long-password")
        page.get_by_role("button", name="Leave for good").click()
        expect(page.get_by_label("Password", exact=True)).to_be_visible()
        held = page.evaluate(
            "() => new Promise((done) => { const r = indexedDB.open('jubark'); r.onsuccess = () => {"
            " r.result.transaction('copies').objectStore('copies').count().onsuccess ="
            " (e) => done(e.target.result); }; })"
        )
        self.assertEqual(held, 0)

    def test_people_outside_are_made_found_and_erased(self) -> None:
        page = self.sign_in(self.at.steward, at="")
        page.goto(f"{self.live_server_url}/contacts")
        expect(page.get_by_text("Nobody yet.")).to_be_visible()
        page.get_by_role("button", name="Add a contact").click()
        page.get_by_label("Name", exact=True).fill("A Neighbour with a Very Long Name of Several Parts")
        page.get_by_label("Email").fill("nobody")
        page.get_by_role("button", name="Save contact").click()
        expect(page.get_by_role("alert").filter(has_text="email: 'nobody' is not allowed")).to_be_visible()
        page.get_by_label("Email").fill("n@example.org")
        page.get_by_role("button", name="Save contact").click()
        page.get_by_role("button", name=re.compile("A Neighbour")).click()
        self.accessible("A contact")
        page.get_by_role("button", name="Erase contact").click()
        page.get_by_role("button", name="Erase for good").click()
        expect(page.get_by_text("Erased on")).to_be_visible()
        self.becomes(lambda: Contact.objects.get().name, "")

    def test_a_role_that_does_not_reach_is_told_so(self) -> None:
        page = self.sign_in(self.at.surveyor)
        for address, says in (
            ("/people", "needs the role steward"),
            ("/audit", "needs the role owner"),
            ("/contacts", "needs the role steward"),
            ("/sites/new", "needs the role steward"),
        ):
            page.goto(self.live_server_url + address)
            expect(page.get_by_role("alert").filter(has_text=says)).to_be_visible()
        page.get_by_role("button", name="Account").first.click()
        expect(page.get_by_role("link", name="Password and devices")).to_be_visible()
        expect(page.get_by_role("link", name="People", exact=True)).to_have_count(0)


class Blocks(BrowserTestCase):
    def choose(self, content: Any) -> None:
        text = content if isinstance(content, str) else json.dumps(content)
        file = {"name": "blocks.geojson", "mimeType": "application/geo+json", "buffer": text.encode()}
        self.page.get_by_label("Boundary from a GeoJSON file").set_input_files(file)

    @tag("slow")
    def test_a_block_from_a_file_and_its_boundary_anew(self) -> None:
        plant = a_plant(self.at, entry("tag", number="0042"), dbh(31.8))
        page = self.sign_in(self.at.steward, at="")
        page.goto(f"{self.live_server_url}/map?new=block")
        for content, says in (
            ("no json", "The file is no JSON"),
            ({"type": "FeatureCollection", "features": []}, "holds no polygon"),
            ({"type": "Point", "coordinates": [0, 0]}, "holds no polygon"),
        ):
            self.choose(content)
            expect(page.get_by_role("alert").filter(has_text=says)).to_be_visible()
        ring = [[-79.3, 40.5], [-79.299, 40.5], [-79.299, 40.501], [-79.3, 40.5]]
        hole = [[-79.2993, 40.5002], [-79.2992, 40.5002], [-79.2992, 40.5003], [-79.2993, 40.5002]]
        self.choose(
            {
                "type": "FeatureCollection",
                "features": [
                    {
                        "type": "Feature",
                        "properties": {"name": "North field"},
                        "geometry": {"type": "Polygon", "coordinates": [ring, hole]},
                    },
                    {
                        "type": "Feature",
                        "properties": {},
                        "geometry": {"type": "Polygon", "coordinates": [[[x, y + 1] for x, y in ring]]},
                    },
                ],
            }
        )
        expect(page.get_by_label("Name", exact=True)).to_have_value("North field")
        expect(page.get_by_text("1 clearings in it come from the file.")).to_be_visible()
        expect(page.get_by_label("Which of its polygons").locator("option")).to_have_count(2)
        page.get_by_role("button", name="Make the block").click()
        expect(page.get_by_role("heading", name="North field")).to_be_visible()
        made = Block.objects.get(name="North field")
        self.assertEqual(json.loads(made.boundary.json)["coordinates"], [ring, hole])
        # the block that was there: another status, typed corners; its tree stays
        page.goto(f"{self.live_server_url}/map/{self.at.block.id}")
        page.get_by_role("button", name="Change the block").click()
        page.get_by_label("Biosecurity status").select_option("infested")
        page.get_by_label("Corners").fill("40.4, -79.3\n40.4, here")
        expect(page.get_by_text("Line 2 is no corner")).to_be_visible()
        page.get_by_label("Corners").fill("40.4, -79.3\n40.4, -79.29\n40.41, -79.29")
        page.get_by_role("button", name="Save block").click()
        expect(page.get_by_text("infested")).to_be_visible()
        self.at.block.refresh_from_db()
        self.assertEqual(len(self.at.block.boundary.coords[0]), 4)
        self.assertEqual(Plant.objects.get(pk=plant).block_id, self.at.block.id)
