"""Rules the database itself holds: child and parent in one organisation, and rows that are never changed."""

import datetime

import pgtrigger
from django.db.models import CheckConstraint, Q

from jubark_core.checks import EARLIEST_YEAR, LATEST_YEAR


def same_organisation(field: str, table: str, name: str) -> pgtrigger.Trigger:
    """A row's organisation is the organisation of the row it points to."""
    return pgtrigger.Trigger(
        name=name,
        when=pgtrigger.Before,
        operation=pgtrigger.Insert | pgtrigger.Update,
        func=f"""
            IF NEW.{field} IS NOT NULL AND NOT EXISTS (
                SELECT 1 FROM {table} p WHERE p.id = NEW.{field} AND p.organisation_id = NEW.organisation_id
            ) THEN
                RAISE EXCEPTION '%.{field}: parent belongs to another organisation', TG_TABLE_NAME
                    USING ERRCODE = 'check_violation';
            END IF;
            RETURN NEW;
        """,
    )


def append_only(name: str) -> pgtrigger.Protect:
    """Rows are added; never changed, never deleted."""
    return pgtrigger.Protect(name=name, operation=pgtrigger.Update | pgtrigger.Delete)


def in_calendar(field: str, name: str) -> CheckConstraint:
    """A date or a time from 1700 to 2200: nothing else can be read again by everything that reads it."""
    first, after = datetime.date(EARLIEST_YEAR, 1, 1), datetime.date(LATEST_YEAR + 1, 1, 1)
    if not field.endswith("_date"):
        first, after = (
            datetime.datetime.combine(day, datetime.time(), datetime.UTC) for day in (first, after)
        )
    return CheckConstraint(condition=Q(**{f"{field}__gte": first, f"{field}__lt": after}), name=name)
