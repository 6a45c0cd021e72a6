"""What day it is at a site: a site's day is that of its place, whoever asks from wherever."""

from __future__ import annotations

import datetime
from zoneinfo import ZoneInfo

from django.utils import timezone
from tzfpy import get_tz


def zone_of(lat: float, lon: float) -> str:
    """The IANA time zone of a place; at sea that of its longitude ("Etc/GMT+5")."""
    return get_tz(lon, lat) or "UTC"


def zone_info(zone: str) -> ZoneInfo:
    """The zone; without one, UTC."""
    return ZoneInfo(zone or "UTC")


def today_in(zone: str, now: datetime.datetime | None = None) -> datetime.date:
    """The date in a zone; without one, at UTC."""
    return (now or timezone.now()).astimezone(zone_info(zone)).date()
