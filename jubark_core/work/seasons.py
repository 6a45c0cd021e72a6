"""When work of a rule may be done at a place: the next window, and every one up to a day."""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Literal

from jubark_core.flora.model import Flora
from jubark_core.flora.views import known_days
from jubark_core.season.days import day_of_year
from jubark_core.season.windows import Sense, Window, chance_within, dates, window_here
from jubark_core.signs.hosts import chain
from jubark_core.work.before.acts import acts, checks_of_acts
from jubark_core.work.contract import SeasonOfWork, SpanOfYear
from jubark_core.work.facts import NAME_FOR_AN_ACT, Facts
from jubark_core.work.load import work_rules
from jubark_core.work.model import Rule

Spans = list[tuple[datetime.date, datetime.date]]
SpanKind = Literal["done", "caution", "never", "nesting"]
YEAR_DAYS = 365
DAY = datetime.timedelta(days=1)


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
    windows = _windows(rule, facts, flora)
    if not windows:
        return None
    open_, met = _open_spans(windows, rule, facts, on, on + datetime.timedelta(days=YEAR_DAYS), flora)
    begins, ends = min((span for spans in open_ for span in spans), key=lambda s: (max(s[0], on), s[1]))
    never = dates(rule.never, facts.place, on, "forbidden") if rule.never else None
    day = day_of_year(on)
    here = [h for w in windows if (h := window_here(w, facts.place, "permitted", _tree(facts, flora)))]
    return {
        "begins": begins.isoformat(),
        "ends": ends.isoformat(),
        "now": begins <= on <= ends,
        "caution": rule.caution_window is not None
        and chance_within(rule.caution_window, facts.place, day, "forbidden") >= 0.5,
        "never_from": never[0].isoformat() if never else "",
        "never_to": never[1].isoformat() if never else "",
        "spans": _ring(rule, facts, on, [spans[0] for spans in open_ if spans]),
        "plus_minus_days": max((h.error_days for h in here), default=0),
        "carried": any(h.origin == "carried" for h in here),
        "rough": met or any(h.rough for h in here),
    }


def _ring(rule: Rule, facts: Facts, on: datetime.date, done: Spans) -> list[SpanOfYear]:
    """The year round: what is done when; the nesting season where nests are looked for."""
    nesting = facts.area.nesting if "C2a" in checks_of_acts(rule.acts) else None
    closed: list[tuple[SpanKind, Window | None]] = [
        ("caution", rule.caution_window),
        ("never", rule.never),
        ("nesting", nesting),
    ]
    found: list[tuple[SpanKind, datetime.date, datetime.date]] = [("done", *span) for span in done]
    found += [(kind, *dates(window, facts.place, on, "forbidden")[:2]) for kind, window in closed if window]
    return [{"kind": kind, "begins": a.isoformat(), "ends": b.isoformat()} for kind, a, b in found]


def is_never(rule: Rule, done: Iterable[str], facts: Facts, on: datetime.date, flora: Flora) -> bool:
    """Whether the day lies where work of the rule is never done on the tree, or where no live wood of its
    kind is cut, whatever rule the cut is made under.
    """
    return any(_forbidden(window, facts, on) for window in _never(rule, done, facts, flora))


def _never(rule: Rule, done: Iterable[str], facts: Facts, flora: Flora) -> list[Window]:
    windows = [rule_here(rule, facts, flora).never]
    if _cuts_live(done) and not rule.in_any_season and (kind := rule_of_kind(facts, flora)):
        windows.append(kind.never)
    return [window for window in dict.fromkeys(windows) if window]


def seals_here(done: Iterable[str], facts: Facts, on: datetime.date, flora: Flora) -> bool:
    """Whether wounds of live cuts are sealed: in the beetle season of the tree's kind, where the area's data
    says that the disease is there and sealing is practice.
    """
    if not _cuts_live(done) or not set(facts.area.seals) & set(chain(facts.taxon, flora)):
        return False
    kinds = (r for r in work_rules().rules.values() if r.sets_season and r.seals and r.never)
    return any(_genus_holds(r, facts, flora) and _forbidden(r.never, facts, on) for r in kinds if r.never)


def _genus_holds(rule: Rule, facts: Facts, flora: Flora) -> bool:
    named = [c for group in rule.when for c in group if c.fact in ("genus", "taxon")]
    return all(facts.holds(c, flora) for c in named)


def _cuts_live(done: Iterable[str]) -> bool:
    return any(acts()[act].cuts_live for act in done)


def _forbidden(window: Window, facts: Facts, on: datetime.date) -> bool:
    return chance_within(window, facts.place, day_of_year(on), "forbidden") >= 0.5


def _tree(facts: Facts, flora: Flora) -> dict[str, float]:
    return known_days(flora, facts.taxon, facts.place)


def _windows(rule: Rule, facts: Facts, flora: Flora) -> tuple[Window, ...]:
    """The windows of the rule; none after bloom where the flora has no date for it."""
    known = rule.after_bloom_days is None or "flower_to" in _tree(facts, flora)
    return rule.seasons if known else ()


def windows_until(rule: Rule, facts: Facts, on: datetime.date, until: datetime.date, flora: Flora) -> Spans:
    """Every window of the rule not over on the day that begins by `until`, the first first; none where any
    day will do.
    """
    here = rule_here(rule, facts, flora)
    open_, _ = _open_spans(_windows(here, facts, flora), here, facts, on, until, flora)
    return sorted(span for spans in open_ for span in spans)


def closed_until(
    rule: Rule, done: Iterable[str], facts: Facts, on: datetime.date, until: datetime.date, flora: Flora
) -> Spans:
    """The days up to `until` on which it is never done."""
    windows = _never(rule, done, facts, flora)
    return [span for window in windows for span in _spans(window, facts, on, until, "forbidden")]


def nesting_until(facts: Facts, on: datetime.date, until: datetime.date) -> Spans:
    """The area's main nesting season up to `until`, by its own calendar: work that can wait keeps out."""
    return _spans(facts.area.nesting, facts, on, until, "forbidden") if facts.area.nesting else []


def _open_spans(
    windows: Sequence[Window], rule: Rule, facts: Facts, on: datetime.date, until: datetime.date, flora: Flora
) -> tuple[list[Spans], bool]:
    """Each window up to a day, without what is never done: where both were carried they may meet, and then
    what is forbidden holds. Where that leaves nothing of any window, the windows as they are and True: no
    window is not any day, and a person sets the dates.
    """
    tree = _tree(facts, flora)
    whole = [_spans(window, facts, on, until, "permitted", tree) for window in windows]
    if rule.never is None:
        return whole, False
    left = [_cut(spans, rule.never, facts, on) for spans in whole]
    return (left, False) if any(left) or not any(whole) else (whole, True)


def _cut(spans: Spans, never: Window, facts: Facts, on: datetime.date) -> Spans:
    if not spans:
        return []
    closed = _spans(never, facts, spans[0][0], spans[-1][1], "forbidden")
    return [part for span in spans for part in _without(span, closed) if part[1] >= on]


def _without(span: tuple[datetime.date, datetime.date], closed: Spans) -> Spans:
    parts = [span]
    for begins, ends in closed:
        parts = [
            part
            for first, last in parts
            for part in ((first, min(last, begins - DAY)), (max(first, ends + DAY), last))
            if part[0] <= part[1]
        ]
    return parts


def _spans(
    window: Window,
    facts: Facts,
    on: datetime.date,
    until: datetime.date,
    sense: Sense,
    tree: dict[str, float] | None = None,
) -> Spans:
    found: Spans = []
    while True:
        begins, ends, _ = dates(window, facts.place, on, sense, tree)
        if begins > until or (found and begins <= found[-1][0]):
            return found
        found.append((begins, ends))
        between = YEAR_DAYS - (ends - begins).days
        on = ends + datetime.timedelta(days=max(1, between // 2))  # well between: dates wobble by a leap day
