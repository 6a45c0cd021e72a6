"""Where it is, as far as the season asks."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Place:
    """lat, lon in degrees (north and east positive), elevation in metres; any may be unknown."""

    lat: float | None = None
    lon: float | None = None
    elevation_m: float | None = None
