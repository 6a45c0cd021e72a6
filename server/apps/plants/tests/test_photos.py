"""Photographs travel apart from their visit, checked against the hash it announced."""

import hashlib
import io
from pathlib import Path
from unittest.mock import patch

from django.core.files.storage import default_storage
from django.test import TestCase
from PIL import Image

from apps.plants.models import PhotoFile
from apps.plants.services.store_photo import store_photo
from apps.plants.tests.factories import a_plant, entry, new_id, signed_in, small_site


def picture(colour: str = "green") -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (40, 30), colour).save(out, "JPEG")
    return out.getvalue()


class Photographs(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.at = small_site()
        cls.data = picture()
        cls.entry = entry(
            "photo", sha256=hashlib.sha256(cls.data).hexdigest(), bytes=len(cls.data), organ="leaf"
        )
        a_plant(cls.at, cls.entry)

    def put(self, data: bytes, photo_id: str | None = None) -> object:
        return signed_in(self.at.surveyor).put(
            f"/api/photos/{photo_id or self.entry['id']}/", data, content_type="image/jpeg"
        )

    def test_the_server_echoes_the_hash_and_keeps_one_copy(self) -> None:
        for _ in range(2):
            answer = self.put(self.data)
            self.assertEqual(
                (answer.status_code, answer.json()["sha256"]), (200, self.entry["body"]["sha256"])
            )
        self.assertEqual(PhotoFile.objects.count(), 1)
        back = signed_in(self.at.viewer).get(f"/api/photos/{self.entry['id']}/")
        self.assertEqual(b"".join(back.streaming_content), self.data)

    def test_another_picture_no_picture_and_a_foreign_organisation(self) -> None:
        self.assertIn("SHA-256", self.put(picture("red")).json()["message"])
        self.assertEqual(self.put(b"").status_code, 400)
        self.assertEqual(self.put(self.data, new_id()).status_code, 404)
        stranger = small_site("Other organisation").owner
        self.assertEqual(signed_in(stranger).get(f"/api/photos/{self.entry['id']}/").status_code, 404)

    def test_text_under_the_right_hash_is_still_no_picture(self) -> None:
        data = b"<script>no picture</script>"
        fake = entry("photo", sha256=hashlib.sha256(data).hexdigest(), bytes=len(data))
        a_plant(self.at, fake)
        self.assertIn("JPEG, PNG or WebP", self.put(data, fake["id"]).json()["message"])

    def test_f16_a_picture_that_says_where_it_was_taken_is_refused(self) -> None:
        exif = Image.Exif()
        exif.get_ifd(0x8825)[2] = (40.0, 30.0, 0.0)  # GPSLatitude
        xmp = b'<x:xmpmeta><rdf:Description exif:GPSLatitude="40,30N"/></x:xmpmeta>'
        for more in ({"exif": exif}, {"xmp": xmp}):
            out = io.BytesIO()
            Image.new("RGB", (40, 30), "green").save(out, "JPEG", **more)
            located = entry(
                "photo", sha256=hashlib.sha256(out.getvalue()).hexdigest(), bytes=len(out.getvalue())
            )
            a_plant(self.at, located)
            answer = self.put(out.getvalue(), located["id"])
            self.assertEqual((answer.status_code, answer.json()["field"]), (400, "photo"))
            self.assertIn("without position data", answer.json()["message"])
        self.assertEqual(PhotoFile.objects.count(), 0)

    def test_f16_stored_pictures_are_for_the_application_alone(self) -> None:
        self.put(self.data)
        path = Path(default_storage.path(PhotoFile.objects.get().path))
        self.assertEqual((path.stat().st_mode & 0o777, path.parent.stat().st_mode & 0o777), (0o600, 0o700))

    def test_f13_a_picture_whose_row_came_in_between_is_read_again(self) -> None:
        self.put(self.data)
        row = PhotoFile.objects.get()
        looked = []

        def not_there_at_first(rows: object) -> PhotoFile | None:
            looked.append(rows)
            return None if len(looked) == 1 else row

        with patch("django.db.models.query.QuerySet.first", not_there_at_first):
            stored = store_photo(actor=self.at.surveyor, photo_id=self.entry["id"], data=self.data)
        self.assertEqual((stored, PhotoFile.objects.count()), (row, 1))
        self.assertEqual(
            default_storage.listdir(str(Path(row.path).parent))[1], [Path(row.path).name]
        )  # no second copy left
