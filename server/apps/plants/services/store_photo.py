"""The bytes of a photograph: checked against the hash its entry announced, stored once per organisation."""

from __future__ import annotations

import hashlib
import io
import struct
from typing import Any
from uuid import UUID

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import IntegrityError, transaction
from PIL import Image, UnidentifiedImageError

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.models import PhotoFile
from apps.plants.selectors import entries_visible_to
from apps.plants.stored import body_of
from config.errors import BadInput
from jubark_core.records.bodies import MOST_PHOTO_BYTES, Photo

TYPES = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}
MOST_PIXELS = 60_000_000
GPS_IFD = 0x8825  # EXIF 2.32, 4.6.3: pointer to the GPS attributes


def photo_recorded(actor: Member, photo_id: UUID) -> Photo:
    """What was recorded of a photograph; DoesNotExist for unknown, foreign and withdrawn alike."""
    body = body_of(entries_visible_to(actor).get(pk=photo_id, kind="photo", retracts=None))
    assert isinstance(body, Photo)
    return body


def store_photo(*, actor: Member, photo_id: UUID, data: bytes) -> PhotoFile:
    """Store the file of a photo entry. Raises BadInput for another hash, an over-long or unreadable
    picture.
    """
    require_role(actor, Role.SURVEYOR, "Sending a photograph")
    entry = photo_recorded(actor, photo_id)
    if not data or len(data) > MOST_PHOTO_BYTES:
        raise BadInput("photo", f"{len(data)} bytes", f"1 to {MOST_PHOTO_BYTES} bytes")
    digest = hashlib.sha256(data).hexdigest()
    if digest != entry.sha256:
        raise BadInput("photo", digest, f"the picture announced, with SHA-256 {entry.sha256}")
    media_type = _media_type(data)
    there = PhotoFile.objects.filter(organisation_id=actor.organisation_id, sha256=digest)
    if stored := there.first():
        return stored
    path = default_storage.save(f"{actor.organisation_id}/{digest[:2]}/{digest}", ContentFile(data))
    try:
        with transaction.atomic():
            return PhotoFile.objects.create(
                organisation_id=actor.organisation_id,
                sha256=digest,
                bytes=len(data),
                media_type=media_type,
                path=path,
            )
    except IntegrityError:  # sent twice at once; the other one was first
        default_storage.delete(path)
        return there.get()


def _media_type(data: bytes) -> str:
    try:
        with Image.open(io.BytesIO(data)) as picture:
            found, pixels = picture.format or "", picture.width * picture.height
            located = bool(picture.getexif().get_ifd(GPS_IFD)) or b"GPSL" in _xmp(picture)
            picture.verify()
    except (
        UnidentifiedImageError,
        OSError,
        SyntaxError,
        ValueError,
        TypeError,
        KeyError,
        struct.error,
        Image.DecompressionBombError,
    ):
        raise BadInput("photo", "unreadable", "a JPEG, PNG or WebP picture") from None
    if found not in TYPES or pixels > MOST_PIXELS:
        raise BadInput(
            "photo", f"{found}, {pixels} pixels", f"JPEG, PNG or WebP of at most {MOST_PIXELS} pixels"
        )
    if located:
        raise BadInput(
            "photo",
            "a picture that says where it was taken",
            "a picture without position data (GPS in EXIF or XMP); the app leaves it out",
        )
    return TYPES[found]


def _xmp(picture: Image.Image) -> bytes:
    """The XMP packet of a picture, where exif:GPSLatitude and the like may stand."""
    raw = picture.info.get("xmp") or picture.info.get("XML:com.adobe.xmp") or b""
    return raw.encode() if isinstance(raw, str) else bytes(raw)


def stored_file(row: PhotoFile) -> Any:
    """The stored file, open for reading."""
    return default_storage.open(row.path, "rb")
