"""Whether this process can do its work: the database answers, its tables are those of this version, and
photographs can be stored.
"""

from __future__ import annotations

import os
import shutil
from pathlib import Path

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor

from jubark_core.flora.load import shipped_flora

LEAST_FREE = 64 * 2**20  # bytes: a few photographs of the largest kind


def what_is_missing() -> list[str]:
    """What keeps this process from its work, each in a sentence; empty when nothing does."""
    found = []
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
        if pending := _pending():
            found.append(f"{pending} migrations are not applied; run manage.py migrate.")
    except DatabaseError:
        found.append("The database does not answer.")
    media = Path(settings.MEDIA_ROOT)
    if not (media.is_dir() and os.access(media, os.W_OK)):
        found.append("The folder for photographs is missing or cannot be written.")
    elif (free := shutil.disk_usage(media).free) < LEAST_FREE:
        found.append(f"The disk of the photographs is full: {free // 2**20} MB are free.")
    if not shipped_flora().leaves:
        found.append("The flora is empty.")
    return found


_state = {"up_to_date": False}  # of this process: once every migration is applied, none is taken back


def _pending() -> int:
    """How many migrations of this version are not applied. Asked until none is."""
    if _state["up_to_date"]:
        return 0
    executor = MigrationExecutor(connection)
    pending = len(executor.migration_plan(executor.loader.graph.leaf_nodes()))
    _state["up_to_date"] = not pending
    return pending
