"""When work of a rule may be done at a place: the next window, and every one up to a day."""

from __future__ import annotations

import datetime
from dataclasses import replace
from typing import Literal

from jubark_core.flora.model import Flora
from jubark_core.season.windows import Place, day_of_year, event_days
from jubark_core.signs.when import chance_within, dates
from jubark_core.work.contract import SeasonOfWork, SpanOfYear
from jubark_core.work.facts import NAME_FOR_AN_ACT, Facts
from jubark_core.work.load import work_rules
from jubark_core.work.model import Rule, Window

Spans = list[tuple[datetime.date, datetime.date]]
SpanKind = Literal["done", "caution", "never", "nesting"]
YEAR_DAYS = 365


def rule_here(rule: Rule, facts: Facts, flora: Flora) -> Rule:
    """The rule as it stands for the tree: what cuts live wood keeps the season of the tree's kind, with what
    an emergency asks for there.
    """
    kind = rule_of_kind(facts, flora) if rule.live_cuts else None
    if kind is None:
        return rule
    return replace(
        rule,
        windows=kind.windows,
        caution_window=kind.caution_window,
        never=kind.never,
        seals=rule.seals or kind.seals,
        emergency=rule.emergency or kind.emergency,
        note=" ".join(text for text in (rule.note, kind.do) if text),
    )


def rule_of_kind(facts: Facts, flora: Flora) -> Rule | None:
    """The rule that sets the season of live cuts for the tree's kind; None: there is none, or no name."""
    if facts.probability < NAME_FOR_AN_ACT:
        return None
    return next((r for r in work_rules().rules.values() if r.sets_season and _of_kind(r, facts, flora)), None)


def _of_kind(rule: Rule, facts: Facts, flora: Flora) -> bool:
    """Whether a rule of live pruning is about the tree, wanted or not."""
    asked = [group for group in rule.when if any(c.fact != "wanted" for c in group)]
    return all(any(facts.holds(c, flora) for c in group) for group in asked)


def season_of(rule: Rule, facts: Facts, on: datetime.date, flora: Flora) -> SeasonOfWork | None:
    """The window that holds the day or the next one; None where any season will do."""
    rule = rule_here(rule, facts, flora)
    spans = [dates(window, facts.place, on)[:2] for window in _windows(rule, facts, flora)]
    if not spans:
        return None
    begins, ends = min(spans, key=lambda span: (max(span[0], on), span[1]))
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
        "spans": _ring(rule, facts, on, flora),
    }


def _ring(rule: Rule, facts: Facts, on: datetime.date, flora: Flora) -> list[SpanOfYear]:
    """The year round: what is done when; the nesting season where nests are looked for."""
    nesting = facts.area.nesting if "C2" in rule.checks else None
    kinds: list[tuple[SpanKind, Window | None, Place]] = [
        *(("done", window, facts.place) for window in _windows(rule, facts, flora)),
        ("caution", rule.caution_window, facts.place),
        ("never", rule.never, facts.place),
        ("nesting", nesting, Place()),  # by the area's own calendar
    ]
    found: list[SpanOfYear] = []
    for kind, window, place in kinds:
        if window:
            begins, ends, _ = dates(window, place, on)
            found.append({"kind": kind, "begins": begins.isoformat(), "ends": ends.isoformat()})
    return found


def is_never(rule: Rule, facts: Facts, on: datetime.date, flora: Flora) -> bool:
    """Whether the day lies where work of the rule is never done on the tree."""
    never = rule_here(rule, facts, flora).never
    return bool(never) and chance_within(never, facts.place, day_of_year(on)) >= 0.5


def _windows(rule: Rule, facts: Facts, flora: Flora) -> tuple[Window, ...]:
    if rule.after_bloom_days is not None:
        bloom = _after_bloom(facts, rule.after_bloom_days, flora)
        return (bloom,) if bloom else ()
    return rule.windows


def _after_bloom(facts: Facts, days: int, flora: Flora) -> tuple[int, int] | None:
    """From the end of bloom at the reference place, so many days; None where the flora has no date."""
    node = flora.taxa.get(facts.taxon, {})
    bloom = event_days(node, Place()).get("flower_to") if "phenology" in node else None
    if bloom is None:
        return None
    return round(bloom), (round(bloom) + days - 1) % 365 + 1


def windows_until(rule: Rule, facts: Facts, on: datetime.date, until: datetime.date, flora: Flora) -> Spans:
    """Every window of the rule not over on the day that begins by `until`, the first first; none where any
    day will do.
    """
    here = rule_here(rule, facts, flora)
    return sorted(span for w in _windows(here, facts, flora) for span in _spans(w, facts.place, on, until))


def closed_until(rule: Rule, facts: Facts, on: datetime.date, until: datetime.date, flora: Flora) -> Spans:
    """The days up to `until` on which it is never done."""
    never = rule_here(rule, facts, flora).never
    return _spans(never, facts.place, on, until) if never else []


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
