"""When work of a rule may be done at a place: the next window, and every one up to a day."""

from __future__ import annotations

import datetime

from jubark_core.flora.model import Flora
from jubark_core.season.windows import Place, day_of_year, event_days
from jubark_core.signs.when import chance_within, dates
from jubark_core.work.contract import SeasonOfWork
from jubark_core.work.facts import Facts
from jubark_core.work.model import Rule, Window

Spans = list[tuple[datetime.date, datetime.date]]
YEAR_DAYS = 365


def season_of(rule: Rule, facts: Facts, on: datetime.date, flora: Flora) -> SeasonOfWork | None:
    """The window that holds the day or the next one; None where any season will do."""
    window = _window(rule, facts, flora)
    if window is None:
        return None
    begins, ends, _ = dates(window, facts.place, on)
    never = dates(rule.never, facts.place, on) if rule.never else None
    day = day_of_year(on)
    return {
        "begins": begins.isoformat(),
        "ends": ends.isoformat(),
        "now": begins <= on <= ends,
        "caution": rule.caution_window is not None
        and chance_within(rule.caution_window, facts.place, day) >= 0.5,
        "never_from": never[0].isoformat() if never else "",
        "never_to": never[1].isoformat() if never else "",
    }


def _window(rule: Rule, facts: Facts, flora: Flora) -> Window | None:
    if rule.after_bloom_days is not None:
        return _after_bloom(facts, rule.after_bloom_days, flora)
    return rule.window


def _after_bloom(facts: Facts, days: int, flora: Flora) -> tuple[int, int] | None:
    """From the end of bloom at the reference place, so many days; None where the flora has no date."""
    node = flora.taxa.get(facts.taxon, {})
    bloom = event_days(node, Place()).get("flower_to") if "phenology" in node else None
    if bloom is None:
        return None
    return round(bloom), (round(bloom) + days - 1) % 365 + 1


def windows_until(rule: Rule, facts: Facts, on: datetime.date, until: datetime.date, flora: Flora) -> Spans:
    """Every window of the rule not over on the day that begins by `until`; none where any day will do."""
    window = _window(rule, facts, flora)
    return _spans(window, facts.place, on, until) if window else []


def closed_until(rule: Rule, facts: Facts, on: datetime.date, until: datetime.date) -> Spans:
    """The days up to `until` on which it is never done."""
    return _spans(rule.never, facts.place, on, until) if rule.never else []


def nesting_until(facts: Facts, on: datetime.date, until: datetime.date) -> Spans:
    """The area's main nesting season up to `until`, by its own calendar: work that can wait keeps out."""
    return _spans(facts.area.nesting, Place(), on, until) if facts.area.nesting else []


def _spans(window: Window, place: Place, on: datetime.date, until: datetime.date) -> Spans:
    found: Spans = []
    while True:
        begins, ends, _ = dates(window, place, on)
        if begins > until or (found and begins <= found[-1][0]):
            return found
        found.append((begins, ends))
        between = YEAR_DAYS - (ends - begins).days
        on = ends + datetime.timedelta(days=max(1, between // 2))  # well between: dates wobble by a leap day
