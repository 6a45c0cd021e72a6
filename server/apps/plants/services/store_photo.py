"""The bytes of a photograph: checked against the hash its entry announced, bare, stored once per
organisation.
"""

from __future__ import annotations

import hashlib
from typing import Any
from uuid import UUID

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import IntegrityError, transaction

from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.plants.models import PhotoFile
from apps.plants.pictures import media_type, stripped
from apps.plants.selectors import entries_visible_to
from apps.plants.stored import body_of
from config.errors import BadInput, DomainError
from jubark_core.records.bodies import MOST_PHOTO_BYTES, Photo

BARE = (
    "the bare picture, without EXIF, XMP, IPTC, comments and what stands behind its end: they may say where "
    "it was taken. The app leaves them out"
)


class PhotoMissing(DomainError):
    """The file of a photograph that was stored is not there."""

    code = "photo_missing"
    status = 404

    def __init__(self) -> None:
        super().__init__(
            "The file of this photograph is not on the server any more. A device that still holds it, or a "
            "backup, can bring it back."
        )


def photo_recorded(actor: Member, photo_id: UUID) -> Photo:
    """What was recorded of a photograph; DoesNotExist for unknown, foreign and withdrawn alike."""
    body = body_of(entries_visible_to(actor).get(pk=photo_id, kind="photo", retracts=None))
    assert isinstance(body, Photo)
    return body


def store_photo(*, actor: Member, photo_id: UUID, data: bytes, strip: bool = False) -> PhotoFile:
    """Store the file of a photo entry. One whose file has gone meanwhile is stored again.

    strip: of an earlier version of the app, which announced the hash of what the browser made: the picture is
    stored bare all the same, under both hashes.
    Raises BadInput for another hash, an over-long or unreadable picture, or one that is not bare;
    StorageFull.
    """
    require_role(actor, Role.SURVEYOR, "Sending a photograph")
    entry = photo_recorded(actor, photo_id)
    if not data or len(data) > MOST_PHOTO_BYTES:
        raise BadInput("photo", f"{len(data)} bytes", f"1 to {MOST_PHOTO_BYTES} bytes")
    digest = hashlib.sha256(data).hexdigest()
    if digest != entry.sha256:
        raise BadInput("photo", digest, f"the picture announced, with SHA-256 {entry.sha256}")
    kind = media_type(data)
    bare = stripped(data)
    if bare != data and not strip:
        raise BadInput("photo", "a picture with more in its file than the picture", BARE)
    own = hashlib.sha256(bare).hexdigest()
    there = PhotoFile.objects.filter(organisation_id=actor.organisation_id, sha256=digest)
    row = there.first()
    if row and is_whole(row):
        return row
    path = default_storage.save(f"{actor.organisation_id}/{own[:2]}/{own}", ContentFile(bare))
    stored = {
        "stored_sha256": "" if own == digest else own,
        "taken_bare": True,
        "bytes": len(bare),
        "path": path,
    }
    if row:
        there.filter(taken_bare=False).update(**stored)
        return there.get()
    try:
        with transaction.atomic():
            return PhotoFile.objects.create(
                organisation_id=actor.organisation_id, sha256=digest, media_type=kind, **stored
            )
    except (
        IntegrityError
    ):  # sent twice at once; the other one was first, and wrote the same under the same name
        return there.get()


def is_whole(row: PhotoFile) -> bool:
    """Whether the stored file is there and as it was stored."""
    if not default_storage.exists(row.path):
        return False
    with default_storage.open(row.path, "rb") as file:
        return hashlib.sha256(file.read()).hexdigest() == (row.stored_sha256 or row.sha256)


def stored_file(row: PhotoFile) -> Any:
    """The stored file, open for reading. Raises PhotoMissing."""
    try:
        return default_storage.open(row.path, "rb")
    except FileNotFoundError:
        raise PhotoMissing from None
