"""What a tree's file holds besides: who answers for it, what binds it, where it grows, what lives in it, what
holds it up, what happened to it, and samples that were sent away. A site switches on what it keeps.
"""

from __future__ import annotations

import datetime
import uuid
from dataclasses import dataclass

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.fields import described
from jubark_core.records.quantities import TALLEST_M
from jubark_core.records.shapes import Day, Flag, Id, Listed, Number, Text, Word

HEIGHT = Number(0, TALLEST_M, "m")


@dataclass(frozen=True, kw_only=True)
class Status:
    """Whose tree it is, and which body answers for it."""

    owner: str = described("Owner", "Whose it is, as far as it is known.", Word(w.OWNERS), since=4)
    responsible: str = described(
        "Responsible body", "The body that answers for it; no name of a person.", Text(120), "", since=4
    )
    contact: uuid.UUID | None = described(
        "Contact", "The person outside the organisation who owns it.", Id(to="contact"), None, since=4
    )
    on_boundary: bool = described(
        "On a boundary", "It stands on the line between two properties.", Flag(), False, since=4
    )
    worth: str = described(
        "Worth to its owner",
        "For age, view, shade or history: treatment that comes back every few years asks for it.",
        Word(w.WORTHS),
        "",
        since=5,
    )


@dataclass(frozen=True, kw_only=True)
class Constraint:
    """A rule of law or contract that binds what may be done to it; local rules take precedence."""

    constraint: str = described("Constraint", "What sort of rule it is.", Word(w.CONSTRAINTS), since=4)
    authority: str = described("Authority", "Who made it, or must be asked.", Text(120), "", since=4)
    reference: str = described("Reference", "Its number or name there.", Text(80), "", since=4)
    since: datetime.date | None = described("Since", "The day it was made.", Day(), None, since=4)
    until: datetime.date | None = described("Until", "Its last day, where it has one.", Day(), None, since=4)

    def check(self, before: str) -> None:
        """It does not end before it begins."""
        if self.since and self.until and self.until < self.since:
            raise InputError(f"{before}until", self.until.isoformat(), f"{self.since} or a later day")


@dataclass(frozen=True, kw_only=True)
class Place:
    """Where it grows: the surface and the soil, water and salt, and the lines above and below."""

    surface: str = described(
        "Surface", "What covers most of the ground at its foot.", Word(w.SURFACES), since=4
    )
    rooting_m3: float | None = described(
        "Rooting volume (m³)", "Soil that its roots can use.", Number(0, 10_000, "m3"), None, since=4
    )
    soil: str = described("Soil", "By hand, of the upper spit.", Word(w.SOILS), "", since=4)
    drainage: str = described("Drainage", "How water leaves.", Word(w.DRAINAGE), "", since=4)
    salt: bool = described("Salt", "Road salt or sea salt reaches it.", Flag(), False, since=4)
    irrigated: bool = described("Irrigated", "Water is brought to it.", Flag(), False, since=4)
    overhead_m: float | None = described(
        "Clearance to a line overhead (m)",
        "From the nearest wire to the nearest twig; stay clear, its operator is asked.",
        Number(0, 100, "m"),
        None,
        since=4,
    )
    underground: bool = described(
        "Underground utilities", "Pipes or cables lie below its crown.", Flag(), False, since=4
    )


@dataclass(frozen=True, kw_only=True)
class Habitat:
    """Something of worth to other life: a hollow, dead wood, a nest or a roost. It is not opened to look."""

    feature: str = described("Habitat feature", "What it is.", Word(w.HABITATS), since=4)
    height_m: float | None = described("Height of it (m)", "Above the ground.", HEIGHT, None, since=4)
    side: str = described("Side", "The side of the tree it faces.", Word(w.SIDES), "", since=4)
    in_use: str = described("In use", "Whether an animal uses it now.", Word(w.IN_USE), "", since=4)
    species: str = described("Species", "Which, as far as it is known.", Text(120), "", since=4)


@dataclass(frozen=True, kw_only=True)
class Climber:
    """What climbs on it. A hairy rope on a trunk may be poison-ivy: it is not touched to find out."""

    climber: str = described("Climber", "What it is.", Listed("climbers"), since=5)
    reaches: str = described("Reaches", "How high it has come.", Word(w.CLIMBER_REACH), "", since=5)
    hides: bool = described("Hides it", "Base or trunk cannot be seen for it.", Flag(), False, since=5)
    cut_on: datetime.date | None = described(
        "Cut on", "The day its stems were severed; what is above dies.", Day(), None, since=5
    )


@dataclass(frozen=True, kw_only=True)
class Headroom:
    """How far its crown stays clear of a way, or of what has to be seen."""

    over: str = described("Over or beside", "What the crown hangs over or hides.", Word(w.WAYS), since=5)
    clear_m: float = described(
        "Clear of it (m)",
        "From the ground of the way to the lowest twig; of a sign, a lamp or a signal, the distance to it.",
        HEIGHT,
        since=5,
    )


@dataclass(frozen=True, kw_only=True)
class NearbyWorks:
    """Building or digging near it, planned or under way: roots die long before the crown shows it."""

    works: str = described("Works", "What is done.", Word(w.GROUND_WORKS), since=5)
    distance_m: float = described(
        "Distance (m)", "From the stem to where it comes nearest.", Number(0, 200, "m"), since=5
    )
    begins: datetime.date | None = described("Begins", "Its first day.", Day(), None, since=5)
    ends: datetime.date | None = described("Ends", "Its last day.", Day(), None, since=5)
    fenced: bool = described("Fenced", "The ground to keep clear is fenced off.", Flag(), False, since=5)
    reference: str = described("Reference", "Of the permit or the method statement.", Text(120), "", since=5)

    def check(self, before: str) -> None:
        """It does not end before it begins."""
        if self.begins and self.ends and self.ends < self.begins:
            raise InputError(f"{before}ends", self.ends.isoformat(), f"{self.begins} or a later day")


@dataclass(frozen=True, kw_only=True)
class Hardware:
    """Something built in to hold or protect it, and when it is looked at again."""

    hardware: str = described("Hardware", "What it is.", Word(w.HARDWARE), since=4)
    height_m: float | None = described("Height of it (m)", "Above the ground.", HEIGHT, None, since=4)
    installed: datetime.date | None = described("Installed", "The day it was put in.", Day(), None, since=4)
    state: str = described("State", "As it was seen on this visit.", Word(w.HARDWARE_STATES), "", since=4)
    next_inspection: datetime.date | None = described(
        "Next inspection", "To be looked at again by then.", Day(), None, since=4
    )


@dataclass(frozen=True, kw_only=True)
class Incident:
    """Something that failed or was done to it, and what followed."""

    incident: str = described("Incident", "What happened.", Word(w.FAILURES), since=4)
    happened_on: datetime.date | None = described("Day", "When it happened.", Day(), None, since=4)
    harm: str = described("Harm", "What came to harm by it.", Word(w.HARM), "", since=4)
    part_cm: float | None = described(
        "Size of the part (cm)", "Diameter where it broke.", Number(0.1, 1500, "cm"), None, since=4
    )
    done: str = described("Done", "What was done about it; no name of a person.", Text(300), "", since=4)


@dataclass(frozen=True, kw_only=True)
class Sample:
    """Material sent away to be examined, and what came back."""

    number: str = described("Sample number", "As it is written on the bag.", Text(40, 1), since=4)
    part: str = described("Part", "What was taken.", Word(w.PARTS), since=4)
    sent_to: str = described("Sent to", "The laboratory.", Text(120), "", since=4)
    sent_on: datetime.date | None = described("Sent on", "The day it was sent.", Day(), None, since=4)
    result: str = described("Result", "What came back, as it was worded.", Text(300), "", since=4)
    result_on: datetime.date | None = described("Result of", "The day it came.", Day(), None, since=4)


@dataclass(frozen=True, kw_only=True)
class Planting:
    """How it came to stand here, and what keeps it alive until it stands by itself."""

    planted_on: datetime.date = described("Planted on", "The day it was set.", Day(), since=4)
    vacant_place: uuid.UUID | None = described(
        "Vacant place", "The planting place it was set in.", Id(to="plant"), None, since=4
    )
    stock: str = described("Stock", "In what form it came.", Word(w.STOCK), "", since=4)
    source: str = described("Source", "Where it was grown; provenance.", Text(120), "", since=4)
    planter: str = described("Planted by", "The crew or firm; no name of a person.", Text(120), "", since=4)
    warranty_until: datetime.date | None = described("Warranty until", "Its last day.", Day(), None, since=4)
    watered_until: datetime.date | None = described(
        "Watered until", "It is watered up to this day.", Day(), None, since=4
    )
    support: str = described("Support", "What holds it.", Word(w.SUPPORT), "", since=4)
    ties: str = described("Ties", "As they were seen on this visit.", Word(w.TIES), "", since=4)
    ties_until: datetime.date | None = described(
        "Ties off by", "Ties left on too long cut into the stem.", Day(), None, since=4
    )

    def check(self, before: str) -> None:
        """Nothing of it ends before it was planted."""
        for name in ("warranty_until", "watered_until", "ties_until"):
            until = getattr(self, name)
            if until and until < self.planted_on:
                raise InputError(before + name, until.isoformat(), f"{self.planted_on} or a later day")


@dataclass(frozen=True, kw_only=True)
class PhotoPoint:
    """A stand and a bearing from which the tree is photographed again and again, in the same frame."""

    name: str = described("Photo point", "What it is called: from the gate.", Text(80, 1), since=4)
    lat: float | None = described(
        "Latitude of the stand", "WGS 84; south is negative.", Number(-90, 90, "degrees"), None, since=4
    )
    lon: float | None = described(
        "Longitude of the stand", "WGS 84; west is negative.", Number(-180, 180, "degrees"), None, since=4
    )
    bearing_deg: float | None = described(
        "Bearing (true degrees)", "In which the camera looks.", Number(0, 360, "degrees"), None, since=4
    )
    stand: str = described("Stand", "How it is found again: by the third post.", Text(200), "", since=4)

    def check(self, before: str) -> None:
        """A place has both of its figures."""
        if (self.lat is None) != (self.lon is None):
            missing = "lat" if self.lat is None else "lon"
            raise InputError(before + missing, "nothing", "latitude and longitude together, or neither")


@dataclass(frozen=True, kw_only=True)
class Enquiry:
    """What somebody asked about it, what they were promised, and what was done."""

    about: str = described("Enquiry", "What it is about.", Word(w.ENQUIRIES), since=4)
    contact: uuid.UUID | None = described(
        "Contact", "The person outside the organisation who asked.", Id(to="contact"), None, since=4
    )
    asked_on: datetime.date | None = described("Asked on", "The day they asked.", Day(), None, since=4)
    said: str = described("Said", "What they said; no name of a person.", Text(500), "", since=4)
    promised: str = described("Promised", "What they were told would be done.", Text(300), "", since=4)
    answer_by: datetime.date | None = described(
        "Answer by", "The day by which it was promised.", Day(), None, since=4
    )
    done: str = described("Done", "What was done about it.", Text(300), "", since=4)
    done_on: datetime.date | None = described("Done on", "The day it was closed.", Day(), None, since=4)


FILE = {
    "status": ("Ownership", Status, "owner"),
    "constraint": ("Legal constraint", Constraint, "constraint"),
    "place": ("Growing place", Place, "surface"),
    "planting": ("Planting", Planting, "planted_on"),
    "habitat": ("Habitat", Habitat, "feature"),
    "climber": ("Climber", Climber, "climber"),
    "headroom": ("Headroom", Headroom, "over"),
    "works": ("Works nearby", NearbyWorks, "works"),
    "hardware": ("Hardware", Hardware, "hardware"),
    "photo_point": ("Photo point", PhotoPoint, "name"),
    "enquiry": ("Enquiry", Enquiry, "about"),
    "incident": ("Incident", Incident, "incident"),
    "sample": ("Sample", Sample, "number"),
}
