"""Rules of work as they are read from their data files."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from jubark_core.season.windows import Window

ACTS = (
    *("make_safe", "mitigate", "watch", "inspect", "deadwood", "prune_live", "report", "support"),
    *("veteran_plan", "leave", "fell", "treat", "order", "herbicide", "cut_climber", "aftercare"),
    *("plant", "collar", "protect", "other"),
)
OPS = ("is", "is_not", "in", "not_in", "has", "has_any", "at_least", "at_most", "above", "below", "known")


@dataclass(frozen=True)
class Condition:
    """One fact, how it is compared, and with what. about: the cause of an `agent`, `about` or `near` fact."""

    fact: str
    op: str
    value: str
    about: str = ""

    def in_words(self) -> str:
        """The condition as a reader sees it."""
        fact = f"{self.fact} {self.about}".strip().replace("_", " ")
        return f"{fact} {self.op.replace('_', ' ')} {self.value.replace('_', ' ')}"


@dataclass(frozen=True)
class LaterPart:
    """What the same job asks for after its first part: so many days after that is completed."""

    part: str
    act: str
    acts: tuple[str, ...]
    do: str
    after_days: int
    windows: tuple[Window, ...] = ()


@dataclass(frozen=True)
class HeldBack:
    """Conditions under which a rule that fires proposes nothing, and why."""

    when: tuple[tuple[Condition, ...], ...]
    why: str


@dataclass(frozen=True)
class Rule:
    """A rule: every group of conditions must hold, of a group any.

    windows: of the year in which it is done; none: any day. live_cuts: it keeps the season of the tree's
    kind, where a rule that sets_season has one for it.
    """

    id: str
    title: str
    act: str
    when: tuple[tuple[Condition, ...], ...]
    do: str
    acts: tuple[str, ...]
    priority: int
    source: str
    windows: tuple[Window, ...] = ()
    caution_window: Window | None = None
    never: Window | None = None
    or_on_wires: str = ""
    after_bloom_days: int | None = None
    standard: str = ""
    method: str = ""
    equipment: str = ""
    refuses: tuple[str, ...] = ()
    overrides: tuple[str, ...] = ()
    follow_up_years: tuple[int, ...] = ()
    follow_up_from: str = "work"
    then: LaterPart | None = None
    sooner: dict[str, int] = field(default_factory=dict)
    unless: tuple[HeldBack, ...] = ()
    cautions: tuple[str, ...] = ()
    note: str = ""
    emergency: str = ""
    seals: bool = False
    live_cuts: bool = False
    sets_season: bool = False
    in_any_season: bool = False
    by_hand: bool = False
    due_days: int | None = None
    instead: dict[str, Any] | None = None
    traffic: bool = False
    assessor_above: float | None = None
    cure_days: int | None = None

    @property
    def seasons(self) -> tuple[Window, ...]:
        """Its windows; after bloom: so many days from the end of the tree's own."""
        if self.after_bloom_days is None:
            return self.windows
        return (Window(events=(("flower_to", 0), ("flower_to", self.after_bloom_days))),)


@dataclass(frozen=True)
class WorkRules:
    """All data of the room."""

    rules: dict[str, Rule]
    standards: dict[str, dict[str, str]]
