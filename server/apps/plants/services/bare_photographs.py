"""Stored photographs made bare, that were taken before only bare ones were."""

from __future__ import annotations

import hashlib

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage

from apps.plants.models import PhotoFile
from apps.plants.pictures import stripped
from config.errors import BadInput


def bare_photographs() -> tuple[int, list[str]]:
    """(how many were changed, paths of those that cannot be). What a visit announced stays beside the hash of
    what is stored now. Safe to repeat, and to break off: the bare file is there before its row says so, and
    the old one goes after that.
    """
    changed, broken = 0, []
    for row in PhotoFile.objects.filter(stored_sha256="", taken_bare=False).iterator():
        try:
            with default_storage.open(row.path, "rb") as file:
                data = file.read()
            bare = stripped(data)
        except (FileNotFoundError, BadInput):
            broken.append(row.path)
            continue
        if bare == data:
            PhotoFile.objects.filter(pk=row.pk).update(taken_bare=True)
            continue
        own = hashlib.sha256(bare).hexdigest()
        path = default_storage.save(f"{row.organisation_id}/{own[:2]}/{own}", ContentFile(bare))
        PhotoFile.objects.filter(pk=row.pk).update(
            stored_sha256=own, bytes=len(bare), path=path, taken_bare=True
        )
        default_storage.delete(row.path)
        changed += 1
    return changed, broken
