"""What ails the plants of the demonstration: the ash avenue's decline, beech leaf disease from the fourth
year on, galls that frighten, and a simulated weather station. Invented.
"""

from __future__ import annotations

import datetime
import math
from random import Random
from typing import Any

from apps.demo.layout import SitePlan, Stand
from apps.health.services.set_biosecurity import set_biosecurity
from apps.health.services.take_station import store_station
from apps.health.station_csv import Readings
from apps.organisations.models import Member
from apps.sites.models import Block, Site
from jubark_core.flora.model import Flora
from jubark_core.signs.diagnose import diagnose

DISEASE_YEARS = 2  # years before the day of the demonstration at which the leaf disease came
STATION_YEARS = 5
STATION_SEED = 1867
SUSPECTED = 0.2
Signs = list[dict[str, Any]]

ASH: tuple[Signs, ...] = (
    [],
    [
        {"sign": "thinning_from_top", "extent": "some", "where": ["upper_crown"], "first_seen": "this_year"},
        {"sign": "epicormic_shoots", "extent": "few", "where": ["trunk"]},
        {"sign": "exit_hole_d", "present": False},
    ],
    [
        {"sign": "exit_hole_d", "extent": "some", "where": ["trunk"], "size_mm": 3.5, "scale_photo": True},
        {"sign": "woodpecker_flecking", "extent": "many", "where": ["trunk", "upper_crown"]},
        {"sign": "thinning_from_top", "extent": "many", "extent_percent": 55, "where": ["upper_crown"]},
    ],
    [
        {"sign": "exit_hole_d", "extent": "many", "where": ["trunk"], "size_mm": 3.5},
        {"sign": "galleries_packed_winding", "extent": "many", "where": ["trunk"]},
        {"sign": "bark_split", "extent": "some", "where": ["trunk"]},
    ],
)
BEECH: tuple[Signs, ...] = (
    [
        {
            "sign": "bands_dark_between_veins",
            "extent": "few",
            "where": ["lower_crown"],
            "first_seen": "this_year",
        },
        {"sign": "felt_patches", "present": False},
    ],
    [
        {
            "sign": "bands_dark_between_veins",
            "extent": "many",
            "where": ["lower_crown"],
            "first_seen": "last_year",
        },
        {"sign": "leathery_curled", "extent": "some", "where": ["lower_crown"]},
        {"sign": "buds_dead", "extent": "few", "where": ["twig_tips"]},
    ],
)
# taxon -> a sign that alarms people, in leaf
HARMLESS = {
    "celtis-occidentalis": {"sign": "galls_nipple", "extent": "many", "where": ["leaf"]},
    "acer-platanoides": {"sign": "spots_black_raised", "extent": "many", "where": ["leaf"]},
    "acer-saccharinum": {"sign": "galls_bladder", "extent": "some", "where": ["leaf"]},
    "quercus-alba": {"sign": "galls_ball", "extent": "few", "where": ["leaf"]},
}
LICHEN = {"sign": "lichen_moss", "extent": "some", "where": ["trunk"]}
HEMLOCK = {"sign": "wool_needle_base", "extent": "few", "where": ["twig"]}  # seen, and not judged yet

EGG_MASSES = {"sign": "egg_mass_buff", "extent": "some", "where": ["trunk"]}  # on oaks, counted on plots
PLOT_M2 = 101.2  # a fortieth of an acre


def signs_of(stand: Stand, number: int, visit: int, date: datetime.date, today: datetime.date) -> Signs:
    """Signs of a visit to a plant."""
    leafy = 5 <= date.month <= 10
    if stand.story == "ash":
        return ASH[min(visit, 3)]
    ago = today.year - date.year
    if stand.story == "beech" and ago <= DISEASE_YEARS and leafy:
        if ago == 0 and number % 4 != 3:
            return BEECH[1]
        if ago > 0 and number % 2 == 0:
            return BEECH[0]
    if stand.taxon == "quercus-rubra" and ago == 0 and date.month >= 8 and number % 5 == 0:
        return [EGG_MASSES | {"number": 6 + number % 7, "over_m2": PLOT_M2}]
    if stand.taxon in HARMLESS and leafy and number % 3 == 0:
        return [HARMLESS[stand.taxon]]
    if stand.taxon == "tsuga-canadensis" and ago == 0 and number % 3 == 0:
        return [HEMLOCK]
    return [LICHEN] if number % 29 == 0 else []


def diagnosis_of(
    site: SitePlan, stand: Stand, number: int, date: datetime.date, signs: Signs, flora: Flora
) -> dict[str, Any] | None:
    """What the engine gives for these signs, taken over by the crew; None where nothing leads, or where
    nobody has judged it yet.
    """
    if not signs or not stand.taxon or signs == [HEMLOCK]:
        return None
    answer = diagnose(
        {
            "on": date.isoformat(),
            "lat": site.lat,
            "lon": site.lon,
            "elevation_m": site.elevation_m,
            "areas": list(site.areas),
            "host": [{"taxon": stand.taxon, "probability": 0.97}],
            "signs": [_for_the_core(sign) for sign in signs],
        },
        flora,
    )
    leader = answer["candidates"][0] if answer["candidates"] else None
    if leader is None or leader["probability"] < SUSPECTED:
        return None
    confirmed = (
        leader["agent"] == "beech-leaf-disease" and number % 8 == 0 and leader["standing"] == "probable"
    )
    return {
        "verdict": "cause",
        "cause": leader["agent"],
        "standing": "confirmed" if confirmed else leader["standing"],
        "probability": round(leader["probability"], 3),
        "others": {c["agent"]: round(c["probability"], 3) for c in answer["candidates"][1:4]},
        "host": stand.taxon,
        "engine": answer["engine"],
        **({"confirmed_by": "laboratory", "reference": f"PD-{date.year}-{number:04d}"} if confirmed else {}),
    }


def _for_the_core(sign: dict[str, Any]) -> dict[str, Any]:
    """A recorded sign as a case has it."""
    found = {k: v for k, v in sign.items() if k in ("sign", "where", "extent", "size_mm", "scale_photo")}
    found |= {"since": sign["first_seen"]} if "first_seen" in sign else {}
    return found | ({} if sign.get("present", True) else {"none": True})


def station(today: datetime.date, seed: int = STATION_SEED) -> Readings:
    """A simulated station: a yearly wave with the swings of real days, some of them missing."""
    rng = Random(seed)
    first = today.replace(year=today.year - STATION_YEARS, month=1, day=1)
    lows: list[float | None] = []
    highs: list[float | None] = []
    swing = 0.0
    for i in range((today - first).days + 1):
        day = first + datetime.timedelta(days=i)
        wave = 9.8 - 12.4 * math.cos(2 * math.pi * (day.timetuple().tm_yday - 21) / 365.25)
        swing = 0.62 * swing + rng.gauss(0, 3.1)
        half = 5.4 + rng.uniform(-2, 2)
        missing = rng.random() < 0.004
        lows.append(None if missing else round(wave + swing - half, 1))
        highs.append(None if missing else round(wave + swing + half, 1))
    return Readings(first, lows, highs)


def set_up(site: Site, steward: Member, today: datetime.date) -> None:
    """The station, and why blocks are not clean."""
    store_station(steward, site, "Mill roof (simulated)", station(today), simulated=True)
    for block in Block.objects.filter(site=site).order_by("name"):
        wood = "Wood" in block.name
        if block.biosecurity == "clean" and not wood:
            continue
        given = {
            "status": "suspect" if wood else block.biosecurity,
            "cause": "beech-leaf-disease" if wood else "emerald-ash-borer",
            "since": today.replace(year=today.year - DISEASE_YEARS, month=7, day=1).isoformat(),
            "lifted_by": "Two summers without new bands"
            if wood
            else "The last ash of the avenue felled and chipped",
        }
        set_biosecurity(actor=steward, block=block, given=given)
