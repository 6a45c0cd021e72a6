"""Rules the database itself holds: child and parent in one crew, and rows that are never changed."""

import pgtrigger


def same_crew(field: str, table: str, name: str) -> pgtrigger.Trigger:
    """A row's crew is the crew of the row it points to."""
    return pgtrigger.Trigger(
        name=name,
        when=pgtrigger.Before,
        operation=pgtrigger.Insert | pgtrigger.Update,
        func=f"""
            IF NEW.{field} IS NOT NULL AND NOT EXISTS (SELECT 1 FROM {table} p WHERE p.id = NEW.{field} AND p.crew_id = NEW.crew_id) THEN
                RAISE EXCEPTION '%.{field}: parent belongs to another crew', TG_TABLE_NAME USING ERRCODE = 'check_violation';
            END IF;
            RETURN NEW;
        """,
    )


def append_only(name: str) -> pgtrigger.Protect:
    """Rows are added; never changed, never deleted."""
    return pgtrigger.Protect(name=name, operation=pgtrigger.Update | pgtrigger.Delete)
