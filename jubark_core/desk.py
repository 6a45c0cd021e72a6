"""The core where one person works: text in, text out, and what was worked out for the running case is kept.

A worker of the browser runs this unchanged. What it answers is what the door answers; a refusal has the shape
the server gives it.
"""

from __future__ import annotations

import json
from typing import Any

from jubark_core import door
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.naming.engine import RunningCase

RANK, NEXT, WHOLE = "rank", "next", "name"


class Desk:
    """A flora and the case in hand. Holds one case at a time; everything else kept is bounded by the flora's
    own views.
    """

    def __init__(self, flora: Flora) -> None:
        self.flora = flora
        self._running = RunningCase(flora)

    def answer(self, operation: str, given: str) -> str:
        """The answer to an operation as JSON: {"answer": …}, or {"refused": …} for bad input, with code,
        message, field, value and what is allowed.
        """
        try:
            return json.dumps({"answer": self._answer(operation, json.loads(given))}, allow_nan=False)
        except InputError as error:
            return json.dumps({"refused": error.told()})

    def _answer(self, operation: str, given: Any) -> Any:
        if operation in (RANK, NEXT, WHOLE) and isinstance(given, dict):
            return {RANK: self._running.rank, NEXT: self._running.next, WHOLE: self._running.name}[operation](
                given
            )
        return door.run(operation, given, self.flora)


def desk_of(flora: str) -> Desk:
    """A desk with the flora that is on the device: {"flora": compiled, "notes": taxon -> note} as JSON."""
    told = json.loads(flora)
    return Desk(Flora(told["flora"], told["notes"]))
