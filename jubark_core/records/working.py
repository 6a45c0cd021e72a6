"""Work on a plant: each step of a job, and what closed a check before it. Steps add; none is overwritten."""

from __future__ import annotations

import datetime
import uuid
from dataclasses import dataclass

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.fields import described
from jubark_core.records.shapes import Day, Flag, Id, Listed, Number, Text, Whole, Word


@dataclass(frozen=True, kw_only=True)
class Work:
    """A step of a job: accepted, changed, refused, planned, started, completed, withdrawn or flagged."""

    job: uuid.UUID = described("Job", "The job through all its steps.", Id(), since=5)
    rule: str = described("Rule", "The rule that proposed it.", Listed("work rules"), since=5)
    step: str = described("Step", "What became of it.", Word(w.WORK_STEPS), since=5)
    part: str = described(
        "Part", "The later part of the job the rule asks for; empty: the first.", Text(20), "", since=5
    )
    follows: uuid.UUID | None = described(
        "Follows", "The completed job that asked for this one.", Id(), None, since=5
    )
    do: str = described("Work", "What is to be done, or was.", Text(400), "", since=5)
    reason: str = described("Reason", "Why it was refused, changed or withdrawn.", Text(300), "", since=5)
    facts: str = described(
        "Facts",
        "Digest of the facts it rests on: a refusal holds while they are the same.",
        Text(40),
        "",
        since=5,
    )
    begins: datetime.date | None = described(
        "Begins", "The first day it is planned for.", Day(), None, since=5
    )
    ends: datetime.date | None = described("Ends", "The last day it is planned for.", Day(), None, since=5)
    earliest_on: datetime.date | None = described(
        "Not before", "A permit, a notice or an outage begins then.", Day(), None, since=5
    )
    latest_on: datetime.date | None = described(
        "Done by", "The wood must be gone, or the beetles fly, after that day.", Day(), None, since=5
    )
    equipment: str = described("Equipment", "How it is reached.", Word(w.EQUIPMENT), "", since=5)
    cut_cm: float | None = described(
        "Largest cut (cm)", "Diameter of the largest cut allowed.", Number(0.1, 500, "cm"), None, since=5
    )
    live_crown_percent: int | None = described(
        "Share of the live crown (%)", "At most so much of it is taken.", Whole(0, 100), None, since=5
    )
    clearance_m: float | None = described(
        "Clearance to leave (m)", "Free height or distance after the cut.", Number(0, 30, "m"), None, since=5
    )
    standard: str = described("Standard", "The standard the work follows.", Text(120), "", since=5)
    traffic: str = described(
        "Traffic", "How road and path are kept free while it is done.", Text(120), "", since=5
    )
    street: str = described(
        "Closure of",
        "The street or path that is closed for it; trees of one are done together.",
        Text(80),
        "",
        since=5,
    )
    route: str = described("Route of the wood", "Where it goes.", Text(120), "", since=5)
    crew: str = described("Crew", "Crew or contractor; no name of a person.", Text(80), "", since=5)
    hours: float | None = described(
        "Hours", "Crew hours, expected or spent.", Number(0, 10_000), None, since=5
    )
    cost: float | None = described("Cost", "In the site's currency.", Number(0, 10_000_000), None, since=5)
    sealed_minutes: float | None = described(
        "Sealed after (minutes)", "How long the wound was open.", Number(0, 10_000), None, since=5
    )
    look_again_on: datetime.date | None = described(
        "Look again on", "When the work itself is looked at again.", Day(), None, since=5
    )
    result: str = described("Result", "What was found when it was done, measured.", Text(300), "", since=5)
    workmanship: str = described(
        "Defects of workmanship", "Stub, flush cut, torn bark, spike marks.", Text(300), "", since=5
    )
    emergency_by: str = described(
        "Emergency named by", "The role that answers for the emergency.", Text(80), "", since=5
    )
    emergency_reason: str = described("Reason of the emergency", "What cannot wait.", Text(300), "", since=5)
    least_work: bool = described(
        "Least work only", "No more than removes the danger.", Flag(), False, since=5
    )
    photographed: bool = described(
        "Photographed before and after", "As it was found.", Flag(), False, since=5
    )
    nests_looked_for: bool = described(
        "Nests and roosts looked for", "Also in an emergency.", Flag(), False, since=5
    )
    roost_possible: bool = described(
        "A roost is possible", "Then the licensed role decides.", Flag(), False, since=5
    )
    line_clearance: bool = described(
        "Crew qualified for line clearance",
        "By whom alone a tree on wires is worked on, under the operator's permit.",
        Flag(),
        False,
        since=6,
    )
    though_held_by: str = described(
        "Done though held: by whom",
        "It was done though wires held the tree; the hold goes on.",
        Text(120),
        "",
        since=6,
    )
    not_known_protected: bool = described(
        "Not known to be protected or quarantined", "As a competent person states.", Flag(), False, since=5
    )

    def check(self, before: str) -> None:
        """A refusal says why, an emergency by whom and why, and no job ends before it begins."""
        if self.step in ("refused", "changed", "withdrawn") and not self.reason.strip():
            raise InputError(before + "reason", "nothing", "why, in a few words")
        if bool(self.emergency_by.strip()) != bool(self.emergency_reason.strip()):
            missing = "emergency_reason" if self.emergency_by.strip() else "emergency_by"
            raise InputError(before + missing, "nothing", "an emergency names its role and its reason")
        if self.earliest_on and self.latest_on and self.latest_on < self.earliest_on:
            raise InputError(before + "latest_on", self.latest_on.isoformat(), f"{self.earliest_on} or later")
        if self.begins and self.ends and self.ends < self.begins:
            raise InputError(before + "ends", self.ends.isoformat(), f"{self.begins} or a later day")


@dataclass(frozen=True, kw_only=True)
class Clearance:
    """That a check before work was closed: by whom, on the day of the visit, until when."""

    check_closed: str = described("Check", "The check that was closed.", Word(w.WORK_CHECKS), since=5)
    what: str = described(
        "What", "Nests, roosts, consent, operator, and the like.", Word(w.CLEARED), "", since=5
    )
    by: str = described("By", "Who closed it: a role, an office, a crew.", Text(80, 1), since=5)
    reference: str = described("Reference", "Number of the letter, permit or call.", Text(120), "", since=5)
    begins: datetime.date | None = described(
        "From", "It is closed from that day on; empty: from the day it was said.", Day(), None, since=6
    )
    until: datetime.date | None = described(
        "Until", "It is closed up to the day before.", Day(), None, since=5
    )
    remark: str = described("Remark", "What else should be known.", Text(300), "", since=5)

    def check(self, before: str) -> None:
        """A line is cleared by its operator's reference, and no check is closed for less than a day."""
        if self.begins and self.until and self.until <= self.begins:
            raise InputError(before + "until", self.until.isoformat(), f"a day after {self.begins}")
        if self.check_closed == "C4" and not self.reference.strip():
            raise InputError(
                before + "reference", "nothing", "the operator's or the locating service's reference"
            )


WORKING = {
    "work": ("Work", Work, "step"),
    "clearance": ("Check closed", Clearance, "check_closed"),
}
