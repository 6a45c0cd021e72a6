"""Places on the earth: the one that was sighted from another, and how far two are from each other."""

from __future__ import annotations

import math

EARTH_RADIUS_M = 6_371_008.8  # mean radius, IUGG


def destination(lon: float, lat: float, bearing_deg: float, distance_m: float) -> tuple[float, float]:
    """(lon, lat) reached from a point by true bearing and horizontal distance.

    lon, lat: WGS 84, degrees. bearing_deg: 0 to 360 from true north. distance_m: up to 500 m. The direct
    problem of the great circle on a sphere; good to 0.5 % of the distance at 500 m.
    """
    angle, theta, phi = distance_m / EARTH_RADIUS_M, math.radians(bearing_deg), math.radians(lat)
    phi2 = math.asin(math.sin(phi) * math.cos(angle) + math.cos(phi) * math.sin(angle) * math.cos(theta))
    turn = math.atan2(
        math.sin(theta) * math.sin(angle) * math.cos(phi), math.cos(angle) - math.sin(phi) * math.sin(phi2)
    )
    return (lon + math.degrees(turn) + 540) % 360 - 180, math.degrees(phi2)


def metres_between(lon: float, lat: float, other_lon: float, other_lat: float) -> float:
    """Distance of two places a walk apart: on the tangent plane at the first, good to 0.1 % within 1 km below
    60 degrees of latitude.

    lon, lat: WGS 84, degrees.
    """
    north = math.radians(other_lat - lat)
    east = math.radians(other_lon - lon) * math.cos(math.radians(lat))
    return EARTH_RADIUS_M * math.hypot(north, east)
