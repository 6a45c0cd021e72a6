"""How a check stands."""

from __future__ import annotations

from dataclasses import dataclass

OPEN, CLOSED = True, False


@dataclass(frozen=True)
class Judged:
    """open, and why; who can close it, and by which kinds of evidence. later: asked for when the day comes.
    lead_weeks: how long ahead it is asked for.
    """

    open: bool
    why: str
    who: str
    kinds: tuple[str, ...] = ()
    later: bool = False
    until: str = ""
    lead_weeks: int = 0
