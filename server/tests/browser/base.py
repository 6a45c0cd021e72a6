"""A browser on a small ground: signs people in, watches the console, checks every page with axe."""

from __future__ import annotations

import os
from typing import Any

from axe_core_python.sync_playwright import Axe
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.test import tag
from playwright.sync_api import ConsoleMessage, Page, expect, sync_playwright

from apps.crews.models import Member
from apps.stems.tests.factories import small_ground

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "1")
FLAGS = ["--no-sandbox", "--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--disable-gpu-sandbox", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"]  # fmt: skip
WAIT_MS = 20_000


@tag("browser")
class BrowserTestCase(StaticLiveServerTestCase):
    host = "localhost"  # a secure context, so that the service worker runs

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.browser.close()
        cls.playwright.stop()
        super().tearDownClass()

    def setUp(self) -> None:
        expect.set_options(timeout=WAIT_MS)
        self.at = small_ground()
        self.complaints: list[str] = []
        self.page = self.open_browser()
        self.addCleanup(self.no_complaints)

    def open_browser(self, width: int = 1280, height: int = 800, **more: Any) -> Page:
        context = self.browser.new_context(viewport={"width": width, "height": height}, accept_downloads=True, **more)
        context.set_default_timeout(WAIT_MS)
        self.addCleanup(context.close)
        page = context.new_page()
        page.on("console", self.listen)
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        return page

    def listen(self, message: ConsoleMessage) -> None:
        policy = "Content Security Policy" in message.text or "violates" in message.text
        broken = message.type == "error" and not message.text.startswith(
            ("Failed to load resource", "net::")
        )  # 401 before sign-in, no network
        if policy or broken:
            self.complaints.append(message.text)

    def no_complaints(self) -> None:
        self.assertEqual(self.complaints, [])

    def sign_in(self, member: Member, page: Page | None = None) -> Page:
        page = page or self.page
        page.goto(self.live_server_url)
        page.get_by_label("Name", exact=True).fill(member.user.username)
        page.get_by_label("Password").fill("a-long-password")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="What shows now")).to_be_visible()
        return page

    def accessible(self, what: str, page: Page | None = None) -> None:
        found = Axe().run(page or self.page, options={"runOnly": ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]})
        told = [f"{what}: {v['id']} {v['help']} at {[n['target'] for n in v['nodes']][:3]}" for v in found["violations"]]
        self.assertEqual(told, [])
