"""Work on a plant: each step of a job, and what closed a check before it. Steps add; none is overwritten."""

from __future__ import annotations

import datetime
import uuid
from dataclasses import dataclass

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.fields import Row, described
from jubark_core.records.shapes import Day, Flag, Id, Listed, Number, Several, Text, Whole, Word


@dataclass(frozen=True, kw_only=True)
class ActOfJob:
    """An act of a job, with the part of the tree it is done to, and its measure."""

    act: str = described("Act", "What is done; the checks before work hang on it.", Listed("acts"), since=7)
    part: str = described("Part", "Of the tree: the limb, the side, the stump.", Text(80), "", since=7)
    measure: str = described("Measure", "Length, share, diameter, height to leave.", Text(80), "", since=7)


@dataclass(frozen=True, kw_only=True)
class Work:
    """A step of a job: accepted, changed, refused, planned, started, stopped, completed or withdrawn."""

    job: uuid.UUID = described("Job", "The job through all its steps.", Id(), since=5)
    rule: str = described("Rule", "The rule that proposed it.", Listed("work rules"), since=5)
    step: str = described("Step", "What became of it.", Word(w.WORK_STEPS), since=5)
    part: str = described(
        "Part", "The later part of the job the rule asks for; empty: the first.", Text(20), "", since=5
    )
    follows: uuid.UUID | None = described(
        "Follows", "The completed job that asked for this one.", Id(), None, since=5
    )
    acts: tuple[ActOfJob, ...] = described(
        "Acts",
        "What is done, act by act; empty: what its rule asks for.",
        Several(Row(ActOfJob), 12),
        (),
        since=7,
    )
    do: str = described("Work", "What is to be done, or was.", Text(400), "", since=5)
    reason: str = described(
        "Reason", "Why it was refused, changed, stopped or withdrawn.", Text(300), "", since=5
    )
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
    contractor: uuid.UUID | None = described(
        "Contractor", "The contact whose people do it.", Id(to="contact"), None, since=7
    )
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
    emergency_lead: uuid.UUID | None = described(
        "Who answers for it", "A member who may name an emergency here.", Id(to="member"), None, since=7
    )
    emergency_reason: str = described("Reason of the emergency", "What cannot wait.", Text(300), "", since=5)
    danger: str = described(
        "Danger", "On record, seen at the tree now, or ordered by telephone.", Word(w.DANGERS), "", since=7
    )
    ordered_by: str = described(
        "Ordered by", "The duty officer who ordered it by telephone.", Text(120), "", since=7
    )
    least_work: bool = described(
        "Least work only", "No more than removes the danger.", Flag(), False, since=5
    )
    photographed: bool = described(
        "Photographed before and after", "As it was found, and as it was left.", Flag(), False, since=5
    )
    no_photograph: str = described(
        "Why there is no photograph", "Before or after, in an emergency.", Text(200), "", since=7
    )
    nests_looked_for: bool = described(
        "Nests and roosts looked for", "Also in an emergency.", Flag(), False, since=5
    )
    roost_possible: bool = described(
        "A roost is possible", "Then the licensed role decides.", Flag(), False, since=5
    )
    nobody_to_be_had: bool = described(
        "Nobody licensed was to be had",
        "And a person, or a road that cannot be closed, was in danger: the nest is spared where possible.",
        Flag(),
        False,
        since=7,
    )
    line_clearance: bool = described(
        "Crew qualified for line clearance",
        "By whom alone a tree on wires is worked on, under the operator's permit.",
        Flag(),
        False,
        since=6,
    )
    happened: bool = described(
        "It was done",
        "It happened though a check was open: it is kept, and marked as a breach.",
        Flag(),
        False,
        since=7,
    )
    though_held_by: str = described(
        "Done all the same: by whom",
        "It was done though a check was open, or wires held the tree; neither ends by it.",
        Text(120),
        "",
        since=6,
    )
    though_why: str = described("Done all the same: why", "What was known then.", Text(300), "", since=7)
    not_known_protected: bool = described(
        "Not known to be protected or quarantined", "As a competent person states.", Flag(), False, since=5
    )

    def check(self, before: str) -> None:
        """A refusal says why, an emergency by whom and why, and no job ends before it begins."""
        if self.step in ("refused", "changed", "stopped", "withdrawn") and not self.reason.strip():
            raise InputError(before + "reason", "nothing", "why, in a few words")
        named = bool(self.emergency_by.strip() or self.emergency_lead)
        if named != bool(self.emergency_reason.strip()):
            missing = "emergency_reason" if named else "emergency_lead"
            raise InputError(
                before + missing, "nothing", "an emergency names who answers for it, and its reason"
            )
        if self.happened and not self.though_held_by.strip():
            raise InputError(before + "though_held_by", "nothing", "by whom it was done")
        if self.happened and not self.though_why.strip():
            raise InputError(before + "though_why", "nothing", "why it was done, in a few words")
        if self.danger == "ordered" and not self.ordered_by.strip():
            raise InputError(before + "ordered_by", "nothing", "the duty officer who ordered it")
        if self.earliest_on and self.latest_on and self.latest_on < self.earliest_on:
            raise InputError(before + "latest_on", self.latest_on.isoformat(), f"{self.earliest_on} or later")
        if self.begins and self.ends and self.ends < self.begins:
            raise InputError(before + "ends", self.ends.isoformat(), f"{self.begins} or a later day")


@dataclass(frozen=True, kw_only=True)
class Clearance:
    """Evidence for a check before work: of which kind, whose, from when, until when, and what it found."""

    check_closed: str = described("Check", "What it is evidence for.", Word(w.WORK_CHECKS), since=5)
    what: str = described(
        "Kind", "A look, a look-up, a permission, and the like.", Word(w.CLEARED), "", since=5
    )
    result: str = described("Found", "What the look or the look-up found.", Word(w.FOUND), "", since=7)
    by: str = described(
        "By", "Who gave it: an office, a role; empty where a member or a contact did.", Text(80), "", since=5
    )
    member: uuid.UUID | None = described("Member", "Whose look it is.", Id(to="member"), None, since=7)
    contact: uuid.UUID | None = described("Contact", "Whose look it is.", Id(to="contact"), None, since=7)
    acts: tuple[str, ...] = described(
        "Acts",
        "What a permission, a notice or an exemption covers.",
        Several(Listed("acts"), 12),
        (),
        since=7,
    )
    job: uuid.UUID | None = described("Job", "Empty: any job of the tree.", Id(), None, since=7)
    answered: tuple[str, ...] = described(
        "Answered", "What poison asks besides.", Several(Word(w.ANSWERED), 3), (), since=7
    )
    conditions: str = described("Conditions", "Under which it was given.", Text(400), "", since=7)
    reference: str = described(
        "Reference", "Number of the letter, permit, call or photograph.", Text(120), "", since=5
    )
    asked_on: datetime.date | None = described(
        "Asked on", "When notice was given, or consent asked for.", Day(), None, since=7
    )
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
        if self.member and self.contact:
            raise InputError(before + "contact", str(self.contact), "nothing: it is a member's")
        if self.check_closed == "C4" and self.what != "line_look" and not self.reference.strip():
            raise InputError(
                before + "reference", "nothing", "the operator's or the locating service's reference"
            )


WORKING = {
    "work": ("Work", Work, "step"),
    "clearance": ("Evidence", Clearance, "check_closed"),
}
