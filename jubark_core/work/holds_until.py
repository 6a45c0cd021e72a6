"""Until when a judgement of work holds: the first day on which, with the same inputs, it may read otherwise.

Every day on which a rule looks is gathered here. What is gathered may lie before the day on which the answer
changes, never after it: a test asks each case again on days in between.
"""

from __future__ import annotations

import datetime
import math
from collections.abc import Iterable, Iterator

from jubark_core.checks import require_date, require_moment
from jubark_core.season.place import Place
from jubark_core.season.windows import Window, dates
from jubark_core.work.before.wildlife import NEST_WEEKS
from jubark_core.work.contract import Proposal, SeasonOfWork
from jubark_core.work.facts import Facts
from jubark_core.work.look_again import DAYS_A_MONTH, FUNGI, LOOKS, STORM_DAYS, months_between
from jubark_core.work.outbreak import FRESH_YEARS, LAID

DAY = datetime.timedelta(days=1)
WOBBLE = 1  # days by which the date of a window moves between years
LONGEST = 366  # a judgement is looked at once a year, whatever it says
INPUTS = ["entries", "nearest finds", "targets", "settings", "area data", "calendar"]


def first_after(on: datetime.date, days: Iterable[datetime.date]) -> datetime.date:
    """The first of the days after one; a year on where there is none."""
    return min((day for day in days if day > on), default=on + LONGEST * DAY)


def proposals_hold_until(facts: Facts, proposals: Iterable[Proposal]) -> datetime.date:
    """Of what a case proposes."""
    days = [*_of_facts(facts), *_of_evidence(facts)]
    for proposal in proposals:
        if proposal["season"]:
            days += _of_season(proposal["season"], facts)
        if any(check["check"] in ("C2a", "C2b") for check in proposal["checks"]):
            days += _of_wildlife(facts)
    return first_after(facts.on, days)


def step_holds_until(facts: Facts, on: datetime.date) -> datetime.date:
    """Of whether a job may take a step on a day: the answer for that day, as long as nothing grows old."""
    days = [*_of_facts(facts), *_of_evidence(facts), *_of_wildlife(facts)]
    ahead = datetime.timedelta(hours=facts.area.nests_within_hours)
    days += [on - ahead, on - ahead + DAY, on + DAY]
    return first_after(facts.on, days)


def _of_facts(facts: Facts) -> Iterator[datetime.date]:
    raw, on, place = facts.raw, facts.on, facts.place
    yield datetime.date(on.year + 1, 1, 1)  # a second year of a pest
    if day := raw.get("next_inspection_on"):
        yield require_date("next_inspection_on", day)
    if seen := raw.get("last_inspected_on") or raw.get("last_visit_on"):
        months = months_between(raw, facts.targets_in_reach)
        yield require_date("last_inspected_on", seen) + math.ceil(months * DAYS_A_MONTH) * DAY
        for _, window in LOOKS:
            yield from _edges(window, place, on)
    for storm in raw.get("storms_on", []):
        day = require_date("storms_on", storm)
        yield from (day, day + (STORM_DAYS + 1) * DAY)
    for name, window in (("fungus_seen_on", FUNGI), ("egg_masses_seen_on", LAID)):
        if raw.get(name):
            yield require_date(name, raw[name])
            yield from _edges(window, place, on)
    if raw.get("egg_mass_plots"):
        yield from _edges(LAID, place, on)
        yield from (require_date("egg_mass_plots.on", plot["on"]) for plot in raw.get("egg_mass_plots", []))
    for row in raw.get("crown_losses", []):
        yield require_date("crown_losses.on", row["on"]) + FRESH_YEARS * 365 * DAY
    if raw.get("planted_on"):
        planted = require_date("planted_on", raw["planted_on"])
        years = max(0, math.floor((on - planted).days / 365.25)) + 1
        yield from (planted, planted + math.ceil(years * 365.25) * DAY)
    for row in raw.get("works", []):
        if row.get("ends"):
            yield require_date("works.ends", row["ends"]) + DAY


def _of_evidence(facts: Facts) -> Iterator[datetime.date]:
    hours = datetime.timedelta(hours=facts.area.nests_within_hours)
    rules = facts.area.consent
    for row in facts.raw.get("evidence", []):
        given = require_date("evidence.on", row["on"])
        yield from (given, given + DAY, given + hours, given + hours + DAY)
        for name in ("begins", "until"):
            if row.get(name):
                yield require_date(f"evidence.{name}", row[name])
        if row["check"] == "C3":
            asked = require_date("evidence.asked_on", row["asked_on"]) if row.get("asked_on") else given
            yield given + math.ceil(rules.look_up_months * DAYS_A_MONTH) * DAY
            yield from (
                asked + n * DAY for n in (rules.notice_days, rules.notice_good_days + 1, rules.exempt_days)
            )
    for papers in facts.raw.get("people", {}).values():
        for paper in papers:
            if paper.get("begins"):
                yield require_date("people.begins", paper["begins"])
            if paper.get("until"):
                yield require_date("people.until", paper["until"]) + DAY
    for permit in facts.raw.get("wire_permits", []):
        yield from (require_date("wire_permits", permit[name]) for name in ("begins", "until"))
    if confirmed := facts.raw.get("confirmed_on"):
        yield from (require_date("confirmed_on", confirmed) + n * DAY for n in (21, 22))


def _of_season(season: SeasonOfWork, facts: Facts) -> Iterator[datetime.date]:
    spans = [(season["begins"], season["ends"]), (season["never_from"], season["never_to"])]
    spans += [(span["begins"], span["ends"]) for span in season["spans"]]
    ahead = datetime.timedelta(hours=facts.area.nests_within_hours)
    for begins, ends in spans:
        for day in (begins, ends):
            if day:
                read = datetime.date.fromisoformat(day)
                yield from (read + shift * DAY for shift in (-WOBBLE, 0, WOBBLE, WOBBLE + 1))
    begins_on = datetime.date.fromisoformat(season["begins"])
    yield from (begins_on - ahead, begins_on - ahead + DAY)  # from then on nests are looked for


def _of_wildlife(facts: Facts) -> Iterator[datetime.date]:
    for window in facts.area.roosts_open_at(facts.place):
        yield from _edges(window, facts.place, facts.on)
    if seen := facts.raw.get("nest_in_use_at"):
        day = require_moment("nest_in_use_at", seen).date()
        yield from (day + n * DAY for n in (0, 1, NEST_WEEKS * 7, NEST_WEEKS * 7 + 1))


def _edges(window: Window, place: Place, on: datetime.date) -> Iterator[datetime.date]:
    """The days on which a window opens and closes next, and those beside them."""
    for sense in ("shows", "permitted", "forbidden"):
        begins, ends, _ = dates(window, place, on, sense)
        for day in (begins, ends):
            yield from (day + shift * DAY for shift in (-WOBBLE, 0, WOBBLE, WOBBLE + 1))
