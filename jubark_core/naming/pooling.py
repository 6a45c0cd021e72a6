"""Which looks are one witness: one plant, one truth.

Readings of one character of one specimen are readings of one state, whatever the date and whoever looks;
values of it are one sample; the same reading by the same observer counts once, with the surest certainty.
"""

from __future__ import annotations

import datetime
from collections.abc import Callable
from dataclasses import dataclass, replace

from jubark_core.flora.model import Flora
from jubark_core.naming.absence import none_is_a_state
from jubark_core.naming.case import Case, Look

SeasonOf = Callable[[datetime.date], str]


@dataclass(frozen=True)
class Reading:
    """What one look adds to an item. Which parts count goes by the item's kind.

    states: reported, or (several of a one-state character) one of them, as 'does not apply' is. absent:
    said not to be there. whole: whether a state that is not named was looked for. values: counts or
    measures. k of n: leaves with the state. slip, confused: as in naming.reading.
    """

    slip: float
    confused: float
    states: tuple[str, ...] = ()
    absent: tuple[str, ...] = ()
    whole: bool = True
    values: tuple[float, ...] = ()
    k: int = 1
    n: int = 1
    senseless: bool = False


@dataclass(frozen=True)
class Item:
    """One item of evidence. look: its first look; character: what it is read as evidence of; on: its first
    date; observers: all who read it.
    """

    index: int
    kind: str  # state, share, many, values, absent
    character: str
    look: Look
    on: datetime.date
    readings: tuple[Reading, ...]
    observers: frozenset[str]

    @property
    def states(self) -> tuple[str, ...]:
        """The states that were named, each once; none where only 'does not apply' was said."""
        named = [s for r in self.readings if not r.senseless for s in r.states]
        return tuple(dict.fromkeys(named))

    @property
    def values(self) -> tuple[float, ...]:
        """All its counts or measures."""
        return tuple(v for r in self.readings for v in r.values)


def pooled(case: Case, flora: Flora, season_of: SeasonOf) -> list[Item]:
    """The items of evidence, in the order of their first mention. season_of: the season of a date at the
    place.
    """
    groups: dict[tuple[object, ...], list[tuple[Look, Reading]]] = {}
    of: dict[tuple[object, ...], tuple[str, str]] = {}
    for look in case.looks:
        if look.skipped or look.seen == "told":
            continue
        for kind, character, reading in _read(look, flora):
            key = _witness(kind, character, look, flora, season_of)
            groups.setdefault(key, []).append((look, reading))
            held = of.get(key, (kind, character))
            # k of n leaves makes single readings 1 of 1; of several absences of an organ the first by name
            # speaks
            of[key] = min(held, (kind, character), key=lambda o: (o[0] != "share", o[1]))
    return [_item(*of[key], found) for key, found in groups.items()]


def _witness(kind: str, character: str, look: Look, flora: Flora, season_of: SeasonOf) -> tuple[object, ...]:
    """What readings must share to be one witness."""
    if kind == "absent":
        return kind, flora.characters[character]["organ"], look.on
    return (
        "values" if kind == "values" else "states",
        character,
        look.specimen,
        look.seen,
        look.stage,
        look.where,
        look.shoot,
        season_of(look.on) if flora.characters[character].get("seasonal", False) else "",
    )


def _read(look: Look, flora: Flora) -> list[tuple[str, str, Reading]]:
    """What one look is read as: one item, or, where it names states that are no longer offered, what those
    say now beside what is left of it. Of k leaves in n it is what most of them showed.
    """
    retired = flora.characters[look.character].get("retired", {})
    if not retired.keys() & {*look.states, *look.absent}:
        return [_reading(look, flora)]
    few = look.k is not None and look.n is not None and 2 * look.k < look.n
    found = []
    for state in sorted(retired.keys() & {*look.states, *look.absent}):
        [(character, now)] = retired[state].items()
        states = flora.characters[character]["states"]
        read = now if state in look.states and not few else [s for s in states if s not in now]
        found.append(("state", character, Reading(look.slip, look.confused, tuple(sorted(read)))))
    left = replace(
        look,
        states=tuple(s for s in look.states if s not in retired),
        absent=tuple(s for s in look.absent if s not in retired),
        k=None,
        n=None,
    )
    if left.states or left.absent:
        found.append(_reading(left, flora))
    return found


def _reading(look: Look, flora: Flora) -> tuple[str, str, Reading]:
    """(kind of item, character it is evidence of, what it adds)."""
    c = flora.characters[look.character]
    slip, confused = look.slip, look.confused
    if not look.applies:
        return _senseless(look, flora)
    if look.none and not none_is_a_state(look, flora):
        return "absent", look.character, Reading(slip, confused)
    if look.values:
        return "values", look.character, Reading(slip, confused, values=tuple(sorted(look.values)))
    states = ("none",) if look.none else tuple(sorted(look.states))
    if look.k is not None and look.n is not None:
        return "share", look.character, Reading(slip, confused, states, k=look.k, n=look.n)
    kind = "many" if c["kind"] == "many" else "state"
    return kind, look.character, Reading(slip, confused, states, tuple(sorted(look.absent)))


def _senseless(look: Look, flora: Flora) -> tuple[str, str, Reading]:
    """'Does not apply' is a reading of what the character rests on, as none of the states in which it makes
    sense.
    """
    [(other, inside)] = flora.characters[look.character]["requires"].items()
    c = flora.characters[other]
    if c["kind"] == "many":
        reading = Reading(look.slip, look.confused, absent=tuple(sorted(inside)), whole=False, senseless=True)
        return "many", other, reading
    outside = tuple(s for s in c["states"] if s not in inside)
    return "state", other, Reading(look.slip, look.confused, outside, senseless=True)


def _item(kind: str, character: str, found: list[tuple[Look, Reading]]) -> Item:
    # absences of one organ are pooled over these: the look that stands for them must not hang on the order
    first = min(
        (look for look, _ in found),
        key=lambda look: (look.seen, look.stage, look.specimen, look.where, look.shoot, look.index),
    )
    surest: dict[tuple[object, ...], Reading] = {}
    for look, r in found:
        observer = "" if kind == "absent" else look.observer
        key = (observer, r.states, r.absent, r.values, r.k, r.n, r.senseless)
        held = surest.get(key)
        if held is None or (r.slip, r.confused) < (held.slip, held.confused):
            surest[key] = r
    for said, r in list(surest.items()):
        if r.senseless and any(_says(other, r) for k, other in surest.items() if k[0] == said[0]):
            del surest[said]
    # in an order of its own, so that sums and products do not hang on the order of the looks
    readings = tuple(
        sorted(
            surest.values(),
            key=lambda r: (r.states, r.absent, r.values, r.k, r.n, r.slip, r.confused, r.senseless),
        )
    )
    return Item(
        index=min(look.index for look, _ in found),
        kind=kind,
        character=character,
        look=first,
        on=min(look.on for look, _ in found),
        readings=readings,
        observers=frozenset(look.observer for look, _ in found),
    )


def _says(direct: Reading, senseless: Reading) -> bool:
    """Whether what was read directly already says that the character does not apply."""
    if direct.senseless:
        return False
    if senseless.absent:
        return not set(direct.states) & set(senseless.absent) and bool(direct.states)
    return set(direct.states) <= set(senseless.states)
