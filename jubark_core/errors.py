"""One small tree of errors. Each says where in the input, which value, and what is allowed."""

from __future__ import annotations


class JubarkError(Exception):
    """Something the core refuses."""


class InputError(JubarkError):
    """A value in the input is not usable.

    place: where in the input, e.g. `observations[2].state`; value: what stood there; allowed: what may stand
    there.
    """

    def __init__(self, place: str, value: object, allowed: str) -> None:
        self.place = place
        self.value = value
        self.allowed = allowed
        super().__init__(f"{place}: {shown(value)} is not allowed; {allowed}")

    def told(self) -> dict[str, str]:
        """The refusal as every door gives it: code, message, field, value and what is allowed."""
        return {
            "code": "bad_input",
            "message": str(self),
            "field": self.place,
            "value": shown(self.value),
            "allowed": self.allowed,
        }


class OutOfRangeError(InputError):
    """A number outside the range in which it can be a measurement."""


class EmptySampleError(InputError):
    """A figure of a sample was asked for without any value (0 would read as a measurement)."""

    def __init__(self, place: str) -> None:
        super().__init__(place, "nothing", "give at least one value")


class FloraError(JubarkError):
    """A flora data file that breaks a rule; carries the file, the line and the reason."""

    def __init__(self, file: str, line: int, reason: str) -> None:
        self.file = file
        self.line = line
        super().__init__(f"{file}:{line}: {reason}")


def shown(value: object, limit: int = 60) -> str:
    """The value as a reader would recognise it, cut to a readable length."""
    text = repr(value) if isinstance(value, str) else str(value)
    return text if len(text) <= limit else text[: limit - 1] + "…"
