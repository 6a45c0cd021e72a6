"""Requests of tests are answered in the role of the application, which may read and write rows and no more;
what a test itself does beside them, it does as the owner.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from typing import Any

from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse

from launcher.cluster import APPLICATION


class AsApplication:
    """Takes the role with the first query of a request, so that one without a query needs no database."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        taken: list[bool] = []

        def first(execute: Any, sql: str, params: Any, many: bool, context: dict[str, Any]) -> Any:
            if not taken:
                taken.append(True)
                context["cursor"].cursor.execute(f"SET ROLE {APPLICATION}")
            return execute(sql, params, many, context)

        try:
            with connection.execute_wrapper(first):
                return self.get_response(request)
        finally:
            if taken and connection.connection is not None:
                with contextlib.suppress(DatabaseError), connection.cursor() as cursor:
                    cursor.execute("RESET ROLE")
