"""An empty database after a test that commits."""

from __future__ import annotations

from django.db import connection

from tests.job_queue import empty_queue

MADE_BY_MIGRATIONS = ("django_content_type", "auth_permission")


def empty_database() -> None:
    """No row is left but what migrations made. To delete a few rows takes a hundredth of what it takes to
    truncate every table; the triggers that keep records from being deleted do not fire meanwhile.
    """
    tables = connection.introspection.django_table_names(only_existing=True, include_views=False)
    with connection.cursor() as cursor:
        cursor.execute("SET session_replication_role = replica")
        for table in sorted(set(tables) - set(MADE_BY_MIGRATIONS)):
            cursor.execute(f"DELETE FROM {connection.ops.quote_name(table)}")
        cursor.execute("SET session_replication_role = DEFAULT")


class EmptiedAfterwards:
    """For test cases that commit. Django would truncate, which no table of records allows."""

    def _fixture_teardown(self) -> None:
        empty_queue()
        empty_database()
