"""The bytes of a photograph: checked against the hash its entry announced, stored once per crew."""

from __future__ import annotations

import hashlib
import io
from typing import Any
from uuid import UUID

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from PIL import Image, UnidentifiedImageError

from apps.crews.models import Member, Role
from apps.crews.permissions import require_role
from apps.stems.models import Photo, PhotoFile
from config.errors import BadInput

MOST_BYTES = 15 * 1024 * 1024
TYPES = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}
MOST_PIXELS = 60_000_000


def photo_entry_of(actor: Member, photo_id: UUID) -> Photo:
    """The photo entry of the actor's crew; DoesNotExist for unknown and foreign alike."""
    return Photo.objects.get(pk=photo_id, entry__crew_id=actor.crew_id)


def store_photo(*, actor: Member, photo_id: UUID, data: bytes) -> PhotoFile:
    """Store the file of a photo entry. Raises BadInput for another hash, an over-long or unreadable picture."""
    require_role(actor, Role.SURVEYOR, "Sending a photograph")
    entry = photo_entry_of(actor, photo_id)
    if not data or len(data) > MOST_BYTES:
        raise BadInput("photo", f"{len(data)} bytes", f"1 to {MOST_BYTES} bytes")
    digest = hashlib.sha256(data).hexdigest()
    if digest != entry.sha256:
        raise BadInput("photo", digest, f"the picture announced, with SHA-256 {entry.sha256}")
    media_type = _media_type(data)
    with transaction.atomic():
        stored = PhotoFile.objects.select_for_update().filter(crew_id=actor.crew_id, sha256=digest).first()
        if stored is not None:
            return stored
        path = default_storage.save(f"{actor.crew_id}/{digest[:2]}/{digest}", ContentFile(data))
        return PhotoFile.objects.create(crew_id=actor.crew_id, sha256=digest, bytes=len(data), media_type=media_type, path=path)


def _media_type(data: bytes) -> str:
    try:
        with Image.open(io.BytesIO(data)) as picture:
            found, pixels = picture.format or "", picture.width * picture.height
            picture.verify()
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError):
        raise BadInput("photo", "unreadable", "a JPEG, PNG or WebP picture") from None
    if found not in TYPES or pixels > MOST_PIXELS:
        raise BadInput("photo", f"{found}, {pixels} pixels", f"JPEG, PNG or WebP of at most {MOST_PIXELS} pixels")
    return TYPES[found]


def stored_file(row: PhotoFile) -> Any:
    """The stored file, open for reading."""
    return default_storage.open(row.path, "rb")
