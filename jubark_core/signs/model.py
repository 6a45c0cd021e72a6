"""Signs, causes and what is normal for the season, as the engine reads them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from jubark_core.season.windows import Window

CLASSES = ("harmless", "minor", "serious", "kills")  # from the least to the worst
PATTERNS = ("host", "single", "site")  # spreads on its host; single plants; all kinds on a site
Harm = Literal["harmless", "minor", "serious", "kills"]


@dataclass(frozen=True)
class SignWord:
    """A sign of the vocabulary.

    noise: chance that it is reported where nothing held here makes it. confused: other sign -> share of its
    reports that mean this one. group: signs of one group count as one witness. counted: over a known ground,
    where a block is to be judged.
    """

    id: str
    label: str
    part: str
    how: str
    mistake: str
    noise: float
    group: str
    in_leaf: bool = False
    wounds: bool = False
    counted: bool = False
    also: tuple[str, ...] = ()
    size_mm: tuple[float, float] | None = None
    confused: dict[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class CauseSign:
    """A sign as one cause makes it. often: chance that a plant that has the cause shows it.

    on, not_on: hosts to which it is bound, empty where to none; again: comes back on the same limbs.
    """

    sign: str
    often: float
    window: Window | None = None
    where: frozenset[str] = frozenset()
    size_mm: tuple[float, float] | None = None
    on: frozenset[str] = frozenset()
    not_on: frozenset[str] = frozenset()
    again: bool = False


@dataclass(frozen=True)
class WarmthEvent:
    """A stage that comes with warmth: degree days above 50 °F from 1 January, single sine, as published."""

    event: str
    low_f: float
    high_f: float
    grade: str


@dataclass(frozen=True)
class Advice:
    """What is usually done. window: days of the year; loss_percent: crown loss for which it holds."""

    do: str
    by: str = ""
    window: Window | None = None
    loss_percent: tuple[float, float] | None = None


@dataclass(frozen=True)
class Cause:
    """A pest, disease or disorder. hosts: id of taxon or group -> how badly it is hit."""

    id: str
    name: str
    latin: str
    kind: str
    harm: Harm
    report: str
    base: float
    hosts: dict[str, float]
    signs: dict[str, tuple[CauseSign, ...]]
    pattern: str
    season: Window | None
    spread: tuple[str, ...]
    next: str
    friends: dict[str, str]
    response: tuple[Advice, ...]
    cautions: tuple[str, ...]
    sample: str
    source: str
    grade: str
    row: int = 0
    also: tuple[str, ...] = ()
    present: tuple[str, ...] = ()
    absent: tuple[str, ...] = ()
    minor_on: frozenset[str] = frozenset()
    site: dict[str, float] = field(default_factory=dict)
    settings: tuple[str, ...] = ()
    newly_planted: float = 1.0
    alkaline: bool = False
    secondary: bool = False
    lab: bool = False
    cuts: str = ""
    grades: dict[str, str] = field(default_factory=dict)  # group of facts -> grade
    ask_host: dict[str, str] = field(default_factory=dict)
    warmth: tuple[WarmthEvent, ...] = ()


@dataclass(frozen=True)
class Normal:
    """What is normal for the season on some plants. signs: sign -> chance that it shows then."""

    id: str
    hosts: frozenset[str]
    signs: dict[str, float]
    window: Window
    text: str
    stages: tuple[str, ...] = ()
    caution: str = ""
    deciduous: bool = False


@dataclass(frozen=True)
class Notifiable:
    """The rules of one area: whom to tell, and of which causes."""

    tell: str
    yes: frozenset[str]


@dataclass(frozen=True)
class Health:
    """All that the room knows: signs, causes, what is normal, and what is notifiable where."""

    signs: dict[str, SignWord]
    alias: dict[str, str]
    causes: dict[str, Cause]
    called: dict[str, str]
    normals: tuple[Normal, ...]
    notifiable: dict[str, Notifiable]
    holds: str
    groups_of_hosts: dict[str, Any] = field(default_factory=dict)
