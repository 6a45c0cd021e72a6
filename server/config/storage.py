"""Files that are there whole or not at all, also after the power went, and the answer when the disk is
full.
"""

from __future__ import annotations

import contextlib
import errno
import os
import secrets
from pathlib import Path
from typing import Any

from django.core.files.storage import FileSystemStorage

from config.errors import DomainError

FULL = (errno.ENOSPC, errno.EDQUOT)


class StorageFull(DomainError):
    """There is no room for a file."""

    code = "storage_full"
    status = 507

    def __init__(self) -> None:
        super().__init__(
            "The disk of the server is full: this was not stored. It stays on your device and is sent again; "
            "whoever looks after the server has to make room."
        )


class WholeFiles(FileSystemStorage):
    """Writes beside the name, to the disk, and only then under the name."""

    def _save(self, name: str, content: Any) -> str:
        """Raises StorageFull; then nothing of the file is there."""
        target = Path(self.path(name))
        beside = target.with_name(f".{target.name}.{secrets.token_hex(4)}")
        try:
            target.parent.mkdir(parents=True, exist_ok=True)
            for folder in (target.parent, target.parent.parent):
                with contextlib.suppress(OSError):
                    folder.chmod(self.directory_permissions_mode or 0o755)
            with beside.open("xb") as file:
                os.chmod(beside, self.file_permissions_mode or 0o644)
                for chunk in content.chunks():
                    file.write(chunk)
                file.flush()
                os.fsync(file.fileno())
            beside.rename(target)
            _sync(target.parent)
        except OSError as error:
            beside.unlink(missing_ok=True)
            if error.errno in FULL:
                raise StorageFull from None
            raise
        return name


def _sync(folder: Path) -> None:
    """The name itself, to the disk."""
    descriptor = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(descriptor)
    finally:
        os.close(descriptor)
