"""F6: who errs waits, and nobody else does; also behind a proxy, and across names."""

from __future__ import annotations

from typing import Any

from django.test import TestCase, override_settings

from apps.organisations.client_address import client_address
from apps.plants.tests.factories import small_site

GUESSER, OTHER = "203.0.113.9", "198.51.100.7"  # documentation addresses, RFC 5737


@override_settings(AXES_ENABLED=True, TRUSTED_PROXIES=1)
class BehindAProxy(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def sign_in(self, name: str, password: str, seen_by_proxy: str, written_by_client: str = "") -> Any:
        forwarded = f"{written_by_client}, {seen_by_proxy}" if written_by_client else seen_by_proxy
        given = {"username": name, "password": password}
        return self.client.post(
            "/api/session/",
            given,
            content_type="application/json",
            REMOTE_ADDR="127.0.0.1",
            HTTP_X_FORWARDED_FOR=forwarded,
        )

    def test_wrong_passwords_lock_the_address_that_erred_and_not_the_right_person(self) -> None:
        name = self.at.surveyor.user.username
        for i in range(8):
            self.sign_in(
                name, "wrong", GUESSER, written_by_client=f"10.0.0.{i}"
            )  # what a client writes itself is not believed
        locked = self.sign_in(name, "a-long-password", GUESSER)
        self.assertEqual((locked.status_code, locked.json()["code"]), (429, "too_many_tries"))
        self.assertEqual(self.sign_in(name, "a-long-password", OTHER).status_code, 200)

    @override_settings(WRONG_SIGN_INS_AN_ADDRESS=12)
    def test_guessing_across_names_locks_the_address(self) -> None:
        for i in range(12):
            self.assertEqual(self.sign_in(f"name-{i}", "spring2026", GUESSER).status_code, 401)
        self.assertEqual(self.sign_in("name-13", "spring2026", GUESSER).status_code, 429)
        self.assertEqual(
            self.sign_in(self.at.surveyor.user.username, "a-long-password", OTHER).status_code, 200
        )

    def test_the_address_counts_from_the_right_and_never_further_than_the_trusted_proxies(self) -> None:
        for trusted, forwarded, address in (
            (0, f"{GUESSER}", "127.0.0.1"),
            (1, f"10.9.9.9, {GUESSER}", GUESSER),
            (2, f"10.9.9.9, {GUESSER}, 10.0.0.1", GUESSER),
            (2, GUESSER, "127.0.0.1"),
            (1, "", "127.0.0.1"),
        ):
            request = type(
                "R", (), {"META": {"REMOTE_ADDR": "127.0.0.1", "HTTP_X_FORWARDED_FOR": forwarded}}
            )()
            with (
                self.subTest(trusted=trusted, forwarded=forwarded),
                override_settings(TRUSTED_PROXIES=trusted),
            ):
                self.assertEqual(client_address(request), address)
