"""The readings of a site's weather station, taken whole."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from apps.health.models import StationRecord
from apps.health.station_csv import Readings, read_station
from apps.organisations.audit import note
from apps.organisations.models import Member, Role
from apps.organisations.permissions import require_role
from apps.organisations.services.accounts import checked_text
from apps.sites.models import Site
from config.errors import BadInput


@transaction.atomic
def take_station(*, actor: Member, site: Site, given: Any) -> StationRecord:
    """Store the readings of a CSV file; earlier records stay, the newest counts. Raises NotAllowed below
    steward, BadInput naming row and column.
    """
    require_role(actor, Role.STEWARD, "Reading in a station")
    if not isinstance(given, dict) or set(given) != {"name", "csv"}:
        raise BadInput("body", given, "an object with name and csv")
    name = checked_text("name", given["name"], 120)
    return store_station(actor, site, name, read_station(given["csv"]))


def store_station(
    actor: Member, site: Site, name: str, readings: Readings, simulated: bool = False
) -> StationRecord:
    """The readings as they were read."""
    made = StationRecord.objects.create(
        organisation_id=actor.organisation_id,
        site=site,
        name=name,
        simulated=simulated,
        first_day=readings.first_day,
        min_c=readings.min_c,
        max_c=readings.max_c,
        set_by=actor,
    )
    note(actor, "station_read", thing=site.id, name=name, days=len(readings.min_c))
    return made
