"""Photographs travel apart from their visit, checked against the hash it announced, and bare."""

import errno
import hashlib
import io
import struct
from pathlib import Path
from types import SimpleNamespace
from unittest.mock import patch

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.test import TestCase
from PIL import Image
from PIL.PngImagePlugin import PngInfo

from apps.plants.models import PhotoFile
from apps.plants.pictures import stripped
from apps.plants.services.bare_photographs import bare_photographs
from apps.plants.services.store_photo import is_whole, store_photo
from apps.plants.tests.factories import a_plant, entry, new_id, signed_in, small_site

PLACE = b"40,30N"


def carrying_a_place() -> dict[str, bytes]:
    """Pictures with a place in their file, each where another reader looks for it."""
    plain = picture()
    xmp = b'<rdf:Description exif:GPSLatitude="' + PLACE + b'"/>'

    def with_segment(marker: int, body: bytes) -> bytes:
        segment = bytes([0xFF, marker]) + struct.pack(">H", len(body) + 2) + body
        return plain[:2] + segment + plain[2:]

    exif = Image.Exif()
    exif.get_ifd(0x8825)[29] = PLACE.decode()  # GPSDateStamp, the one of the GPS attributes that is text
    one = b"Exif\x00\x00" + exif.tobytes()[6:]
    png, webp = io.BytesIO(), io.BytesIO()
    text = PngInfo()
    text.add_itxt("XML:com.adobe.xmp", xmp.decode())
    Image.new("RGB", (40, 30), "green").save(png, "PNG", pnginfo=text)
    Image.new("RGB", (40, 30), "green").save(webp, "WEBP", lossless=True, xmp=xmp)
    namespace = b"http://ns.adobe.com/xap/1.0/\x00"
    return {
        "exif": with_segment(0xE1, one),
        "second exif": with_segment(0xE1, b"Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x00" + PLACE),
        "xmp": with_segment(0xE1, namespace + xmp),
        "second xmp packet": with_segment(0xE1, namespace + b"<x/>" + xmp),
        "xmp in utf-16": with_segment(0xE1, namespace + (xmp + PLACE).decode().encode("utf-16") + PLACE),
        "extended xmp": with_segment(0xE1, b"http://ns.adobe.com/xmp/extension/\x00" + xmp),
        "iptc": with_segment(0xED, b"Photoshop 3.0\x008BIM\x04\x04\x00\x00" + PLACE),
        "comment": with_segment(0xFE, PLACE),
        "trailing data": plain + PLACE,
        "png text": png.getvalue(),
        "png trailing": png.getvalue() + PLACE,
        "webp xmp": webp.getvalue(),
    }


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

    def announced(self, data: bytes) -> str:
        """The id of a photograph that a visit has announced by its hash."""
        photo = entry("photo", sha256=hashlib.sha256(data).hexdigest(), bytes=len(data))
        a_plant(self.at, photo)
        return str(photo["id"])

    def test_f24_a_plain_png_is_taken(self) -> None:
        out = io.BytesIO()
        Image.new("RGB", (40, 30), "green").save(out, "PNG")
        self.assertEqual(self.put(out.getvalue(), self.announced(out.getvalue())).status_code, 200)

    def test_f33_whatever_is_not_the_picture_is_refused_or_taken_off(self) -> None:
        for name, data in carrying_a_place().items():
            with self.subTest(name):
                photo = self.announced(data)
                answer = self.put(data, photo)
                self.assertEqual((answer.status_code, answer.json()["field"]), (400, "photo"))
                self.assertIn("may say where it was taken", answer.json()["message"])
                self.assertFalse(PhotoFile.objects.filter(sha256=hashlib.sha256(data).hexdigest()).exists())
                # of an earlier app, which has announced it so: bare all the same, under both hashes
                answer = signed_in(self.at.surveyor).put(
                    f"/api/photos/{photo}/?strip=1", data, content_type="image/jpeg"
                )
                self.assertEqual(answer.json()["sha256"], hashlib.sha256(data).hexdigest())
                back = b"".join(signed_in(self.at.viewer).get(f"/api/photos/{photo}/").streaming_content)
                self.assertEqual(answer.json()["stored_sha256"], hashlib.sha256(back).hexdigest())
                self.assertNotIn(PLACE, back)
                self.assertEqual(stripped(back), back)
                with Image.open(io.BytesIO(back)) as shown, Image.open(io.BytesIO(data)) as sent:
                    self.assertEqual(
                        list(shown.convert("RGB").getdata()), list(sent.convert("RGB").getdata())
                    )

    def test_f33_stored_before_that_it_is_made_bare_once(self) -> None:
        data = carrying_a_place()["comment"]
        photo = self.announced(data)
        digest = hashlib.sha256(data).hexdigest()
        path = default_storage.save("older/picture", ContentFile(data))
        PhotoFile.objects.create(
            organisation=self.at.organisation, sha256=digest, bytes=9, media_type="image/jpeg", path=path
        )
        self.assertEqual(bare_photographs(), (1, []))
        row = PhotoFile.objects.get(sha256=digest)
        self.assertTrue(is_whole(row))
        self.assertFalse(default_storage.exists(path))
        back = b"".join(signed_in(self.at.viewer).get(f"/api/photos/{photo}/").streaming_content)
        self.assertNotIn(PLACE, back)
        self.assertEqual(bare_photographs(), (0, []), "and not again")

    def test_f21_a_file_that_is_gone_is_said_and_stored_again(self) -> None:
        self.put(self.data)
        row = PhotoFile.objects.get()
        reader = signed_in(self.at.viewer)
        for spoil in (lambda path: path.unlink(), lambda path: path.write_bytes(b"half")):
            spoil(Path(default_storage.path(row.path)))
            gone = reader.get(f"/api/photos/{self.entry['id']}/")
            if gone.status_code != 200:
                self.assertEqual((gone.status_code, gone.json()["code"]), (404, "photo_missing"))
            self.assertEqual(self.put(self.data).json()["stored_sha256"], row.sha256)
            back = reader.get(f"/api/photos/{self.entry['id']}/")
            self.assertEqual(b"".join(back.streaming_content), self.data)

    def test_f21_a_full_disk_is_said_and_leaves_nothing_half(self) -> None:
        folder = Path(default_storage.path(str(self.at.organisation.id)))
        before = sorted(folder.rglob("*"))
        full = OSError(errno.ENOSPC, "No space left on device")
        with patch("config.storage.os.fsync", side_effect=full):
            answer = self.put(self.data)
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "storage_full"))
        self.assertIn("stays on your device", answer.json()["message"])
        self.assertEqual(PhotoFile.objects.count(), 0)
        self.assertEqual([p for p in folder.rglob("*") if p.is_file() and p not in before], [])
        with patch("shutil.disk_usage", return_value=SimpleNamespace(free=2**20)):
            ready = self.client.get("/api/ready/")
        self.assertEqual((ready.status_code, len(ready.json()["missing"])), (503, 1))
        self.assertIn("disk of the photographs is full", ready.json()["missing"][0])
        self.assertEqual(self.put(self.data).status_code, 200)

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
