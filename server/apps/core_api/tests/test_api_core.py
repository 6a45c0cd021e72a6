"""Over HTTP the door is the same door: what is posted goes in, what the core answers comes out."""

import json
from unittest import mock

from django.core.cache import cache
from django.test import Client, TestCase

from apps.core_api.api.views import DoorThrottle
from apps.plants.tests.factories import signed_in, small_site
from jubark_core.door import OPERATIONS, run
from jubark_core.flora.load import shipped_flora
from jubark_core.tests.door_requests import CASE, SOUND


class DoorOverHttp(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def setUp(self) -> None:
        self.api = signed_in(self.at.viewer)

    def test_every_operation_gives_what_the_core_gives(self) -> None:
        for name in OPERATIONS:
            with self.subTest(name):
                expected = json.loads(json.dumps(run(name, SOUND[name], shipped_flora())))
                answer = self.api.post(f"/api/core/{name}/", SOUND[name])
                self.assertEqual((answer.status_code, answer.json()), (200, expected))

    def test_a_list_of_cases_gives_a_list_of_answers(self) -> None:
        one = self.api.post("/api/core/rank/", CASE).json()
        self.assertEqual(self.api.post("/api/core/rank/", [CASE, CASE]).json(), [one, one])

    def test_every_role_gets_the_same_answer(self) -> None:
        answers = [
            signed_in(member).post("/api/core/rank/", CASE).json()
            for member in (self.at.viewer, self.at.surveyor, self.at.steward, self.at.owner)
        ]
        self.assertEqual(answers, answers[:1] * 4)

    def test_only_who_is_signed_in_and_never_by_get(self) -> None:
        for name in OPERATIONS:
            with self.subTest(name):
                self.assertEqual(Client().post(f"/api/core/{name}/", SOUND[name]).status_code, 401)
                asked = self.api.get(f"/api/core/{name}/")  # as an app of an earlier version did
                self.assertEqual((asked.status_code, asked.json()["code"]), (410, "app_outdated"))

    def test_a_bad_request_is_400_with_place_value_and_allowed(self) -> None:
        for name, change, field in (
            ("rank", {"areas": ["XXX"]}, "areas[0]"),
            ("rank", {"on": "tomorrow"}, "on"),
            ("rank", {"observations": 3}, "observations"),
            ("rank", {"extra": 1}, "extra"),
            ("plate", {"stage": "old"}, "stage"),
            ("plate", {"part": "root"}, "part"),
            ("species", {"taxon": "acer"}, "taxon"),
            ("side-by-side", {"taxa": ["acer-rubrum", "acer-nowhere"]}, "taxa"),
            ("season", {"place": {"lat": 91, "lon": 0}}, "place.lat"),
        ):
            with self.subTest(name, field=field):
                answer = self.api.post(f"/api/core/{name}/", {**SOUND[name], **change})
                self.assertEqual((answer.status_code, answer.json()["field"]), (400, field))
                self.assertTrue(answer.json()["allowed"])
        self.assertEqual(
            self.api.post("/api/core/name/", "{", content_type="application/json").status_code, 400
        )

    def test_a_loop_is_slowed_down_and_told_so(self) -> None:
        cache.clear()
        self.addCleanup(cache.clear)
        with mock.patch.object(DoorThrottle, "rate", "2/min", create=True):
            statuses = [
                self.api.post("/api/core/find-names/", {"words": "oak"}).status_code for _ in range(3)
            ]
            other = signed_in(self.at.owner).post("/api/core/find-names/", {"words": "oak"})
        self.assertEqual(statuses, [200, 200, 429])
        self.assertEqual(other.status_code, 200, "each member has their own measure")


class TheFloraForADevice(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()

    def test_it_is_the_flora_of_this_installation_and_fetched_again_only_when_it_changed(self) -> None:
        api = signed_in(self.at.viewer)
        answer = api.get("/api/core/flora/")
        told = answer.json()
        self.assertEqual(told["flora"]["version"], shipped_flora().version)
        self.assertEqual(told["notes"], shipped_flora().notes)
        self.assertEqual(answer["Cache-Control"], "private, no-cache")
        again = api.get("/api/core/flora/", HTTP_IF_NONE_MATCH=answer["ETag"])
        self.assertEqual((again.status_code, again.content), (304, b""))
        self.assertEqual(api.get("/api/core/flora/", HTTP_IF_NONE_MATCH='"older"').status_code, 200)
        packed = api.get("/api/core/flora/", HTTP_ACCEPT_ENCODING="gzip")
        self.assertLess(len(packed.content), 400_000)

    def test_only_who_is_signed_in_has_it(self) -> None:
        self.assertEqual(Client().get("/api/core/flora/").status_code, 401)
        self.assertEqual(signed_in(self.at.viewer).post("/api/core/flora/", {}).status_code, 405)
