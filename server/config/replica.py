"""Long reads from a replica, where one is configured: exports and the audit, which may lag by a moment.
Whatever a person waits for right after writing is read where it was written.
"""

from __future__ import annotations

import functools
from collections.abc import Callable
from contextvars import ContextVar
from typing import Any, ParamSpec, TypeVar

from django.conf import settings

P = ParamSpec("P")
T = TypeVar("T")
_on_replica: ContextVar[bool] = ContextVar("on_replica", default=False)


def reads_from_replica(view: Callable[P, T]) -> Callable[P, T]:
    """Marks a view of reads only: its queries go to the replica where there is one."""

    @functools.wraps(view)
    def wrapped(*args: P.args, **kwargs: P.kwargs) -> T:
        token = _on_replica.set(True)
        try:
            return view(*args, **kwargs)
        finally:
            _on_replica.reset(token)

    return wrapped


class ReplicaRouter:
    """Reads of marked views to the replica, everything else to the database itself."""

    def db_for_read(self, model: Any, **hints: Any) -> str | None:
        """The replica, inside a marked view."""
        return "replica" if _on_replica.get() and "replica" in settings.DATABASES else None

    def db_for_write(self, model: Any, **hints: Any) -> str:
        """Never the replica."""
        return "default"

    def allow_relation(self, one: Any, two: Any, **hints: Any) -> bool:
        """Both are the same data."""
        return True

    def allow_migrate(self, db: str, app_label: str, **hints: Any) -> bool:
        """The replica follows by itself."""
        return db == "default"
