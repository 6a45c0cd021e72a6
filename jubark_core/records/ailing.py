"""What is seen on a plant that ails, and what is held to cause it: sign, diagnosis."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.fields import described
from jubark_core.records.shapes import Flag, Listed, Number, Several, Table, Text, Whole, Word

PERCENT = Whole(0, 100)


@dataclass(frozen=True, kw_only=True)
class Sign:
    """A sign or symptom of a pest, disease or disorder, seen or looked for and not there."""

    sign: str = described("Sign or symptom", "What was seen or looked for.", Listed("signs"))
    present: bool = described("Present", "False: looked for and not there.", Flag(), True)
    extent: str = described(
        "How many",
        "Few: 2 to 5; some: 6 to 20; many: more. Of a crown: under 10 %, 10 to 30 %, over 30 %.",
        Word(w.SIGN_EXTENTS),
        "",
        since=5,
    )
    extent_percent: int | None = described("Extent (%)", "How far it reaches.", PERCENT, None)
    where: tuple[str, ...] = described(
        "Where", "The parts of the tree it is on.", Several(Word(w.SIGN_PLACES), 16), (), since=5
    )
    side: str = described("Side", "The side of the tree it faces.", Word(w.SIDES), "", since=5)
    first_seen: str = described(
        "Since", "Whether it was there in earlier years.", Word(w.SIGN_SINCE), "", since=5
    )
    size_mm: float | None = described(
        "Size (mm)", "Across, by a ruler, of what has a size.", Number(0.1, 1000, "mm"), None, since=5
    )
    scale_photo: bool = described(
        "Photographed with a scale",
        "A photograph of this visit shows it beside a scale.",
        Flag(),
        False,
        since=5,
    )
    wipes_off: bool | None = described("Wipes off", "Whether a finger takes it off.", Flag(), None, since=5)
    circumference_percent: int | None = described(
        "Share of the circumference (%)", "How much of the way round it reaches.", PERCENT, None, since=5
    )
    number: int | None = described(
        "Number", "How many were counted, or how many plants near by.", Whole(0, 100_000), None, since=5
    )
    over_m2: float | None = described(
        "Counted over (m²)",
        "The ground on which all of them were counted, on everything that stands and lies on it.",
        Number(1, 100_000, "m2"),
        None,
        since=5,
    )
    insect_stage: str = described(
        "Stage of the insect", "Egg, larva, pupa or adult.", Word(w.INSECT_STAGES), "", since=5
    )
    certainty: str = described("Certainty", "How sure the observer is.", Word(w.CERTAINTIES), "", since=5)

    def check(self, before: str) -> None:
        """Ground that was searched says how many were found on it."""
        if self.over_m2 is not None and self.number is None:
            raise InputError(before + "number", "nothing", "how many were counted on that ground; 0 too")


@dataclass(frozen=True, kw_only=True)
class Diagnosis:
    """What is held to be wrong, how far that is established, and what it rests on. A person decides."""

    verdict: str = described(
        "Verdict", "A cause, normal for the season, nothing wrong, or unknown.", Word(w.VERDICTS), since=5
    )
    cause: str = described(
        "Cause", "The pest, disease or disorder, where the verdict is one.", Listed("causes"), "", since=5
    )
    standing: str = described(
        "How far established",
        "Suspicion; probable by two independent signs; confirmed by a laboratory or an officer; ruled out.",
        Word(w.STANDINGS),
        "",
        since=5,
    )
    probability: float | None = described(
        "Probability", "As it was computed from the signs of the visit.", Number(0, 1), None, since=5
    )
    others: dict[str, Any] = described(
        "Other causes",
        "What else it may be, with its probability.",
        Table(Listed("causes"), Number(0, 1)),
        {},
        since=5,
    )
    host: str = described("Host", "The taxon the plant was held to be.", Text(80), "", since=5)
    confirmed_by: str = described("Confirmed by", "Nothing else confirms.", Word(w.CONFIRMED_BY), "", since=5)
    reference: str = described("Reference", "Number of the report or of the case.", Text(80), "", since=5)
    engine: str = described("Computed by", "Version of the engine.", Text(40), "", since=5)
    remark: str = described("Remark", "What speaks for another judgement.", Text(500), "", since=5)

    def check(self, before: str) -> None:
        """A cause is named where there is one, and what is confirmed says by whom."""
        if self.verdict == "cause" and not self.cause:
            raise InputError(before + "cause", "nothing", "a cause, where the verdict is one")
        if self.verdict != "cause" and self.cause:
            raise InputError(before + "cause", self.cause, "left out, where the verdict is no cause")
        if self.cause and not self.standing:
            raise InputError(before + "standing", "nothing", "how far the cause is established")
        if self.standing and not self.cause:
            raise InputError(before + "standing", self.standing, "left out, where there is no cause")
        for name in ("confirmed_by", "reference"):
            if self.standing == "confirmed" and not getattr(self, name):
                raise InputError(before + name, "nothing", "who confirmed it, with the reference")
        if self.confirmed_by and self.standing not in ("confirmed", "ruled_out"):
            raise InputError(before + "confirmed_by", self.confirmed_by, "left out of what is not confirmed")
