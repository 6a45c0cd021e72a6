"""A browser on a small site: signs people in, watches the console, checks every page with axe."""

from __future__ import annotations

import functools
import io
import os
import threading
from collections.abc import Callable
from typing import Any

from axe_core_python.sync_playwright import Axe
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.signals import request_finished, request_started
from django.test import Client, tag
from PIL import Image
from playwright.sync_api import Browser, ConsoleMessage, Page, Response, expect, sync_playwright
from playwright.sync_api import Error as PlaywrightError

from apps.organisations.models import Member
from apps.plants.tests.factories import small_site
from tests.emptied import EmptiedAfterwards

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "1")
CHROMIUM = "/usr/bin/chromium-headless-shell"  # draws no window of its own: a third less work
FLAGS = [
    "--no-sandbox",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
    "--disable-gpu-compositing",
    "--disable-gpu-rasterization",
    "--disable-gpu-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--use-fake-device-for-media-stream",  # a camera that shows a moving test picture
    "--use-fake-ui-for-media-stream",
]
WAIT_MS = 60_000  # as long as a slow machine needs; what is green waits no longer than it must
LOOKS_MS = 100  # between two looks at the database
PASSWORD = "a-long-password"
FRAME = "/no-page"  # the frame of the app, and nothing in it that asks for anything
LITTLE_MEMORY = "Object.defineProperty(navigator, 'deviceMemory', { get: () => 1 })"
MOSS, INK, RUST = (
    (0x3F, 0x5F, 0x34),
    (0x21, 0x1F, 0x18),
    (0xA1, 0x4A, 0x26),
)  # as web/src/app/theme.css has them


class InFlight:
    """How many requests the live server is answering."""

    def __init__(self) -> None:
        self.changed = threading.Condition()
        self.open = 0
        request_started.connect(self.began, weak=False)
        request_finished.connect(self.ended, weak=False)

    def began(self, **_: object) -> None:
        self.count(1)

    def ended(self, **_: object) -> None:
        self.count(-1)

    def count(self, step: int) -> None:
        with self.changed:
            self.open += step
            self.changed.notify_all()

    def forget(self) -> None:
        """Before the first request of a class: a test without a browser may have left an answer unread."""
        with self.changed:
            self.open = 0

    def wait(self, seconds: float) -> None:
        with self.changed:
            self.changed.wait_for(lambda: self.open <= 0, seconds)


IN_FLIGHT = InFlight()


def shown_on(page: Page) -> str:
    """The texts of a page as it stands; a page that answers no more says so."""
    try:
        return page.locator("body").aria_snapshot(timeout=2_000)[:4_000]
    except PlaywrightError as error:
        return f"no answer: {error.message.splitlines()[0]}"


@functools.cache
def the_browser() -> Browser:
    """The one browser of this process; it ends with it."""
    return sync_playwright().start().chromium.launch(executable_path=CHROMIUM, args=FLAGS)


@tag("browser")
class BrowserTestCase(EmptiedAfterwards, StaticLiveServerTestCase):
    host = "localhost"  # a secure context, so that the service worker runs
    server_may_fail = False  # True where a test makes it fail
    offline = (
        False  # True where pages are read anew without the network: what for is fetched at each first visit
    )

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        IN_FLIGHT.forget()
        cls.browser = the_browser()

    def setUp(self) -> None:
        expect.set_options(timeout=WAIT_MS)
        self.make_site()
        self.complaints: list[str] = []
        self.seen_going_wrong: list[str] = []
        self.page = self.open_browser()
        self.addCleanup(self.no_complaints)

    def make_site(self) -> None:
        """What is there before the browser opens; nothing, where a test begins with an empty database."""
        self.at = small_site()

    def _fixture_teardown(self) -> None:
        # what a closed page still asked for is answered first: it would lock what is emptied now
        IN_FLIGHT.wait(WAIT_MS / 1000)
        super()._fixture_teardown()

    def open_browser(self, width: int = 1280, height: int = 800, core: bool = False, **more: Any) -> Page:
        """A page of its own context. core: whether the device is one that takes the core; most tests ask the
        server, as a device with little memory does.
        """
        more = {"service_workers": "allow" if core or self.offline else "block"} | more
        context = self.browser.new_context(
            viewport={"width": width, "height": height}, accept_downloads=True, **more
        )
        context.set_default_timeout(WAIT_MS)
        if not core:
            context.add_init_script(LITTLE_MEMORY)
        self.addCleanup(context.close)
        page = context.new_page()
        page.on("console", self.listen)
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.on("crash", lambda _: self.complaints.append(f"crashed: {page.url}"))
        page.on("response", self.watch_answer)
        page.on("requestfailed", lambda r: self.seen_going_wrong.append(f"{r.method} {r.url}: {r.failure}"))
        return page

    def watch_answer(self, answer: Response) -> None:
        """No request may find a fault of the server; a refusal is told where a test fails."""
        if answer.status >= 500 and not self.server_may_fail:
            self.complaints.append(f"{answer.status} {answer.request.method} {answer.url}")
        elif answer.status >= 400:
            self.seen_going_wrong.append(f"{answer.status} {answer.request.method} {answer.url}")

    def _callTestMethod(self, method: Callable[[], object]) -> None:  # noqa: N802 unittest's own name
        """A failure tells what the pages showed: it may come but once in a hundred runs."""
        try:
            super()._callTestMethod(method)  # type: ignore[misc]
        except Exception as error:
            for context in self.browser.contexts:
                for page in context.pages:
                    error.add_note(f"{page.url} showed:\n{shown_on(page)}")
            error.add_note("Refused or failed: " + "; ".join(self.seen_going_wrong[-20:]))
            raise

    def listen(self, message: ConsoleMessage) -> None:
        policy = "Content Security Policy" in message.text or "violates" in message.text
        broken = message.type == "error" and not message.text.startswith(
            ("Failed to load resource", "net::")
        )  # 401 before sign-in, no network
        if policy or broken:
            self.complaints.append(message.text)

    def no_complaints(self) -> None:
        self.assertEqual(self.complaints, [])

    def sign_in(self, member: Member, page: Page | None = None, at: str = FRAME) -> Page:
        """With the session of a member, at an address, or at none yet; by name and password only where that
        is what is tested.
        """
        page = page or self.page
        client = Client()
        given = {"username": member.user.username, "password": PASSWORD}
        self.assertEqual(
            client.post("/api/session/", given, content_type="application/json").status_code, 200
        )
        cookie = {"name": "sessionid", "value": client.cookies["sessionid"].value, "httpOnly": True}
        page.context.add_cookies([{**cookie, "url": self.live_server_url}])
        if at:
            page.goto(self.live_server_url + at)
            expect(page.get_by_role("button", name="Account").first).to_be_visible()
        return page

    def sign_in_by_hand(self, member: Member, page: Page | None = None) -> Page:
        page = page or self.page
        page.goto(self.live_server_url)
        page.get_by_label("Name", exact=True).fill(member.user.username)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="What shows now")).to_be_visible()
        return page

    def becomes(self, stored: Callable[[], object], expected: object) -> None:
        """What the database holds comes to this: a screen may show it from the device first."""
        for _ in range(WAIT_MS // LOOKS_MS):
            if stored() == expected:
                return
            self.page.wait_for_timeout(LOOKS_MS)
        self.assertEqual(stored(), expected)

    def stems_seen(self, page: Page, at_least: int, colour: tuple[int, int, int] = MOSS) -> int:
        """Pixels of the plan in the colour of stems, once there are so many; named stems are moss, dead ones
        rust, edges ink.
        """
        plan = page.get_by_role("application")
        expect(plan).to_have_attribute("aria-busy", "false")
        seen = 0
        for _ in range(40):
            with Image.open(io.BytesIO(plan.locator("canvas").screenshot())) as picture:
                # inside the frame of the block, whose edge is ink too
                inner = picture.convert("RGB").crop((60, 60, picture.width - 60, picture.height - 60))
                seen = sum(
                    n
                    for n, c in inner.getcolors(1 << 24) or []
                    if all(abs(a - b) < 12 for a, b in zip(c, colour, strict=True))
                )
            if seen >= at_least:
                break
            page.wait_for_timeout(250)
        return seen

    def accessible(self, what: str, page: Page | None = None) -> None:
        found = Axe().run(
            page or self.page, options={"runOnly": ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]}
        )
        told = [
            f"{what}: {v['id']} {v['help']} at {[n['target'] for n in v['nodes']][:3]}"
            for v in found["violations"]
        ]
        self.assertEqual(told, [])
