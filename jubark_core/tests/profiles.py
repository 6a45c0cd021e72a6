"""How many examples a property is given, in one place: few in the fast lane, four times as many in the slow
one.

The same ones every time, so that a green run stays green; `./jubark test slow --fresh` draws others and
prints the seed. No deadline: a slow machine is not a fault.
"""

from __future__ import annotations

import os
from collections.abc import Callable
from typing import Any, TypeVar

from hypothesis import HealthCheck, seed, settings

T = TypeVar("T", bound=Callable[..., Any])
SLOW_TIMES = 4
PROPERTY = "property"  # the tag of Django's runner, by which the slow lane finds it
IN_SLOW = os.environ.get("JUBARK_LANE") == "slow"
SEED = os.environ.get("JUBARK_SEED", "")


def slow(test: T) -> T:
    """Leaves a test, or a class of them, to the slow lane: what Django's `tag` does, without Django."""
    test.tags = getattr(test, "tags", set()) | {"slow"}  # type: ignore[attr-defined]
    return test


def examples(fast: int, slow: int | None = None) -> Callable[[T], T]:
    """Gives a property its examples: put it above `@given`.

    fast, slow: how many in each lane; slow: four times as many where it is left out.
    """
    number = (fast * SLOW_TIMES if slow is None else slow) if IN_SLOW else fast
    profile = settings(
        max_examples=number,
        deadline=None,
        derandomize=not SEED,
        database=None,
        print_blob=bool(SEED),
        suppress_health_check=list(HealthCheck),
    )

    def decorate(test: T) -> T:
        given = profile(seed(int(SEED))(test) if SEED else test)
        given.tags = getattr(test, "tags", set()) | {PROPERTY}  # type: ignore[attr-defined]
        return given

    return decorate
