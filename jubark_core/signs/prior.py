"""What a plant can have before anybody looks: by host, area, site, age and neighbours."""

from __future__ import annotations

import datetime
import math

from jubark_core.flora.model import Flora
from jubark_core.signs.case import HealthCase
from jubark_core.signs.hosts import susceptibility
from jubark_core.signs.load import health
from jubark_core.signs.model import Cause, Notifiable

NOTHING, UNKNOWN, NORMAL = 0.5, 0.09, 0.35  # beside the causes' own shares: estimates, 'common practice'
NOTHING_IF_NONE_SEEN = 2.0  # nobody saw a sign: most such plants are sound
NOT_HERE, NEAR_BY, NOT_KNOWN_HERE = 0.02, 0.1, 0.3
NEAR_KM = 100.0
OTHER_SETTING = 0.4
NOT_SO, HELPED = 0.4, 0.3  # the site was said not to have it; the tree was treated against it
ALKALINE = ((7.0, 4.0), (6.5, 1.0), (0.0, 0.3))  # soil pH from -> factor
YOUNG_YEARS = 3
FROST_DAYS = 45
LARGE_SHARE, FEWEST_NEIGHBOURS = 0.3, 3
# How likely a large share of affected neighbours of the same kind is, and affected plants of other kinds.
OF_SAME = {"host": 0.5, "site": 0.5, "single": 0.08, "unknown": 0.3, "nothing": 0.05, "normal": 0.6}
OF_OTHERS = {"host": 0.06, "site": 0.7, "single": 0.06, "unknown": 0.15, "nothing": 0.05, "normal": 0.2}


def prior_weight(cause: Cause, taxon: str, case: HealthCase, flora: Flora) -> float:
    """Share of the cause among plants like this, beside NOTHING for sound ones; 0 where it is no host."""
    weight = susceptibility(cause, taxon, flora)
    if weight <= 0:
        return 0.0
    weight *= cause.base * _in_area(cause, case, flora) * _of_site(cause, case)
    if cause.settings and case.setting not in ("unknown", *cause.settings):
        weight *= OTHER_SETTING
    if cause.newly_planted > 1 and _is_new(case):
        weight *= cause.newly_planted
    if cause.id in case.treated:
        weight *= HELPED
    return weight


def status_here(cause: Cause, case: HealthCase, flora: Flora) -> str:
    """present, absent or unknown in the areas of the case: as the case says, else as the data file does."""
    told = dict(case.area_status).get(cause.id)
    if told is not None:
        return told.status
    if not case.areas or not (cause.present or cause.absent):
        return "present"
    called = [set(_ordered(area, flora)) for area in case.areas]
    if any(names & set(cause.present) for names in called):
        return "present"
    if all(names & set(cause.absent) for names in called):
        return "absent"
    return "unknown"


def notifiable_here(cause: Cause, case: HealthCase, flora: Flora) -> tuple[str, str]:
    """(how it is notifiable, who is told by role) in the areas of the case; ("", role) where it is not."""
    rules = health().notifiable
    tell = rules[""].tell
    how = cause.report
    for area in case.areas:
        for token in _ordered(area, flora):
            rule = rules.get(token, Notifiable("", frozenset()))
            tell = rule.tell or tell
            if cause.id in rule.yes:
                how = "yes"
    return how, tell


def is_reported_now(cause: Cause, case: HealthCase, flora: Flora) -> bool:
    """Whether a suspicion is to be told at once here."""
    how, _ = notifiable_here(cause, case, flora)
    return how == "yes" or (how == "where not yet present" and status_here(cause, case, flora) != "present")


def _ordered(area: str, flora: Flora) -> tuple[str, ...]:
    """What a list may call the area, the narrowest last: continent, region, its own code."""
    region = flora.area[area]["region"] if area in flora.area else ""
    return (f"@{region[:1]}", f"@{region}", area)


def _in_area(cause: Cause, case: HealthCase, flora: Flora) -> float:
    status = status_here(cause, case, flora)
    if status == "absent":
        told = dict(case.area_status).get(cause.id)
        near = told is not None and told.km is not None and told.km < NEAR_KM
        return NEAR_BY if near else NOT_HERE
    return NOT_KNOWN_HERE if status == "unknown" else 1.0


def _of_site(cause: Cause, case: HealthCase) -> float:
    site = dict(case.site)
    factor = 1.0
    for key, times in cause.site.items():
        if key == "frost":
            frost = site.get("frost_on")
            lately = frost is not None and 0 <= (case.on - frost).days <= FROST_DAYS
            factor *= times if lately else 1.0
        elif key in site:
            factor *= times if site[key] else (NOT_SO if times > 1 else 1.0)
    if cause.alkaline and "soil_ph" in site:
        factor *= next(times for from_ph, times in ALKALINE if site["soil_ph"] >= from_ph)
    return factor


def _is_new(case: HealthCase) -> bool:
    if case.planted_on is None:
        return False
    return datetime.timedelta() <= case.on - case.planted_on <= datetime.timedelta(days=366 * YOUNG_YEARS)


def neighbours_log(pattern: str, case: HealthCase) -> float:
    """Natural log of the chance of what was counted round the plant, by the pattern of the hypothesis."""
    same, others = counted(case)
    found = 0.0
    if same is not None:
        found += math.log(OF_SAME[pattern] if same else 1 - OF_SAME[pattern])
    if others is not None:
        found += math.log(OF_OTHERS[pattern] if others else 1 - OF_OTHERS[pattern])
    return found


def counted(case: HealthCase) -> tuple[bool | None, bool | None]:
    """(many of the same kind have it, other kinds have it); None where nobody counted."""
    n = case.neighbours
    same: bool | None = None
    others: bool | None = None
    if n.same_host is not None and n.same_affected is not None and n.same_host >= FEWEST_NEIGHBOURS:
        same = n.same_affected / n.same_host >= LARGE_SHARE
    if n.others_affected is not None:
        others = n.others_affected > 0
    for sign in sorted(case.signs, key=lambda s: (s.sign, not s.none)):
        if sign.sign == "same_host_affected" and same is None:
            same = not sign.none
        if sign.sign == "other_hosts_affected" and others is None:
            others = not sign.none
    return same, others
