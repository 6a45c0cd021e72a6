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


def append_only(name: str) -> tuple[pgtrigger.Trigger, ...]:
    """Rows are added; never changed, never deleted, also not all at once."""
    return (
        pgtrigger.Protect(name=name, operation=pgtrigger.Update | pgtrigger.Delete),
        _never_emptied(name),
    )


def settled(name: str, *open_columns: str, until: str = "true") -> tuple[pgtrigger.Trigger, ...]:
    """Rows are never deleted, and nothing of them changes but the columns named, while a condition on OLD
    holds: a merge is undone once, a target ended once, a plan that is ready stays as it is.
    """
    named = "ARRAY[" + ", ".join(f"'{column}'" for column in open_columns) + "]::text[]"
    return (
        pgtrigger.Trigger(
            name=name,
            when=pgtrigger.Before,
            operation=pgtrigger.Update | pgtrigger.Delete,
            func=f"""
                IF TG_OP = 'UPDATE' AND ({until}) AND to_jsonb(NEW) - {named} = to_jsonb(OLD) - {named} THEN
                    RETURN NEW;
                END IF;
                RAISE EXCEPTION '%: rows are not deleted, and change no more than is open to it',
                TG_TABLE_NAME
                    USING ERRCODE = 'check_violation';
            """,
        ),
        _never_emptied(name),
    )


def _never_emptied(name: str) -> pgtrigger.Trigger:
    return pgtrigger.Trigger(
        name=f"{name}_whole"[:47],
        level=pgtrigger.Statement,
        when=pgtrigger.Before,
        operation=pgtrigger.Truncate,
        func="RAISE EXCEPTION '%: is never emptied', TG_TABLE_NAME USING ERRCODE = 'check_violation';",
    )


def in_calendar(field: str, name: str) -> CheckConstraint:
    """A date or a time from 1700 to 2200: nothing else can be read again by everything that reads it."""
    first, after = datetime.date(EARLIEST_YEAR, 1, 1), datetime.date(LATEST_YEAR + 1, 1, 1)
    if not field.endswith("_date"):
        first, after = (
            datetime.datetime.combine(day, datetime.time(), datetime.UTC) for day in (first, after)
        )
    return CheckConstraint(condition=Q(**{f"{field}__gte": first, f"{field}__lt": after}), name=name)
