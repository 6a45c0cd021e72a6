"""What is kept at the desk: a site with its blocks, targets and inspections, the people outside, and what
members are qualified for.
"""

from __future__ import annotations

import datetime
import uuid
from dataclasses import dataclass
from typing import Any

from jubark_core.errors import InputError
from jubark_core.records import words as w
from jubark_core.records.fields import Described, Row, described, fields_of
from jubark_core.records.shapes import Day, Id, Line, Listed, Number, Outline, Several, Text, Whole, Word
from jubark_core.records.things import Conventions
from jubark_core.records.working import Clearance


@dataclass(frozen=True, kw_only=True)
class Site:
    """A property: where it lies, and the conventions its figures follow."""

    name: str = described("Name", "As it is called in reports; once in an organisation.", Line(120, 1))
    lat: float = described(
        "Latitude", "Of its middle, WGS 84; south is negative.", Number(-90, 90, "degrees")
    )
    lon: float = described(
        "Longitude", "Of its middle, WGS 84; west is negative.", Number(-180, 180, "degrees")
    )
    elevation_m: float = described(
        "Elevation (m)",
        "Above the sea, of most of it; seasons are later higher up.",
        Number(-430, 6000, "m"),
        0.0,
    )
    areas: tuple[str, ...] = described(
        "Botanical areas",
        "TDWG areas (level 3) in which it lies: what grows wild there, and how common it is.",
        Several(Listed("areas"), 5, 1),
    )
    hardiness_zone: str = described(
        "Hardiness zone",
        "By the coldest night of an average year; what is too tender is weighed down.",
        Word(w.HARDINESS_ZONES),
        "",
    )
    conventions: Conventions = described(
        "Conventions", "How its figures are taken.", Row(Conventions), Conventions()
    )


@dataclass(frozen=True, kw_only=True)
class Block:
    """A part of a site that is walked and reported as one."""

    name: str = described("Name", "Once on a site.", Line(120, 1))
    boundary: dict[str, Any] = described(
        "Boundary", "A GeoJSON polygon, drawn on the map or from a file.", Outline(("Polygon",))
    )
    setting: str = described("Setting", "What most of it is.", Word(w.SETTINGS), "unknown")
    biosecurity: str = described(
        "Biosecurity status",
        "Clean blocks are walked first; boots and saws carry soil from sick stands to sound ones.",
        Word(w.BIOSECURITY),
        "clean",
    )
    note: str = described("Note", "What everyone who goes there should know.", Text(300), "")


@dataclass(frozen=True, kw_only=True)
class Competence:
    """A licence or qualification of a member, or a paper of a contact."""

    kind: str = described("Kind", "What sort of paper it is.", Word(w.COMPETENCES), "qualification")
    skill: str = described("Shows", "What work asks for, where it shows that.", Word(w.SKILLS), "")
    name: str = described("Name", "As the paper has it, with its level.", Line(120, 1))
    issuer: str = described("Issuer", "Who gave it.", Line(120), "")
    number: str = described("Number", "As the paper has it.", Line(60), "")
    valid_from: datetime.date | None = described("Valid from", "Its first day.", Day(), None)
    valid_until: datetime.date | None = described(
        "Valid until", "Its last day; left empty where it does not expire.", Day(), None
    )

    def check(self, before: str) -> None:
        """It does not end before it begins."""
        if self.valid_from and self.valid_until and self.valid_until < self.valid_from:
            raise InputError(
                before + "valid_until", self.valid_until.isoformat(), f"{self.valid_from} or a later day"
            )


@dataclass(frozen=True, kw_only=True)
class Contact:
    """A person outside the organisation. Records name contacts by id, so that one can be erased."""

    name: str = described("Name", "As they wish to be called.", Line(80, 1))
    role: str = described("Role", "Owner, contractor, observer.", Line(80), "")
    email: str = described("Email", "To write to them.", Line(254), "")
    phone: str = described("Telephone", "To call them.", Line(40), "")
    address: str = described("Address", "Where they are written to.", Text(300), "")
    note: str = described("Note", "No more than the work needs.", Text(500), "")
    papers: tuple[Competence, ...] = described(
        "Papers",
        "Approval, insurance, licences and qualifications, as far as work asks for them.",
        Several(Row(Competence), 20),
        (),
    )

    def check(self, before: str) -> None:
        """An address of email has one @ with something on both sides of it."""
        name, at, host = self.email.rpartition("@")
        if self.email and not (at and name and "." in host and " " not in self.email):
            raise InputError(before + "email", self.email, "an address as name@example.org, or nothing")


@dataclass(frozen=True, kw_only=True)
class Target:
    """Something of the site that a tree may fall on, and how often somebody is there. Targets make the zones
    in which trees are inspected.
    """

    name: str = described("Name", "As people there call it.", Line(120, 1))
    kind: str = described("Kind", "What it is.", Word(w.TARGET_KINDS))
    occupancy: str = described(
        "Occupancy",
        "How often somebody is there, or something of worth: rare, occasional, frequent, or constant.",
        Word(w.OCCUPANCY),
    )
    shape: dict[str, Any] = described(
        "Shape", "A GeoJSON point, line or polygon.", Outline(("Point", "LineString", "Polygon"))
    )
    note: str = described("Note", "Whether it can be moved or closed, and by whom.", Text(300), "")


MONTHS = Whole(1, 120)


@dataclass(frozen=True, kw_only=True)
class ZoneRule:
    """What the owner asks for in one zone: the level of inspection, how often, and by whom."""

    zone: str = described("Zone", "By the busiest target within reach of the tree.", Word(w.OCCUPANCY))
    level: str = described("Level asked for", "A higher one does as well.", Word(w.INSPECTION_LEVELS))
    months: int = described(
        "Months", "Between two inspections, where no risk was rated or it is low.", MONTHS
    )
    moderate_months: int | None = described("Months at moderate risk", "Empty: as at low risk.", MONTHS, None)
    high_months: int | None = described(
        "Months at high risk", "Of high and extreme; empty: as at moderate risk.", MONTHS, None
    )
    qualification: str = described(
        "Qualification asked for",
        "The name of a licence or qualification as it stands with the members; empty: none is asked for.",
        Line(120),
        "",
    )

    def check(self, before: str) -> None:
        """A higher risk is not looked at more seldom."""
        longest = self.months
        for name in ("moderate_months", "high_months"):
            months = getattr(self, name)
            if months is not None and months > longest:
                raise InputError(
                    before + name, months, f"at most {longest}: a higher risk is not looked at more seldom"
                )
            longest = months or longest


@dataclass(frozen=True, kw_only=True)
class Regime:
    """The owner's table of inspections: by zone and rating. Without it nothing falls due by zone."""

    rules: tuple[ZoneRule, ...] = described(
        "Rules", "One for each zone that is inspected.", Several(Row(ZoneRule), len(w.OCCUPANCY)), ()
    )
    reach_heights: float = described(
        "Reach (tree heights)",
        "A tree reaches what stands within its height times this; common practice is 1 to 1.5.",
        Number(0.5, 3),
        1.0,
    )
    reach_m: float = described(
        "Reach where no height is known (m)", "Of a tree that was not measured.", Number(1, 100, "m"), 20.0
    )
    since: datetime.date | None = described(
        "In force from", "The first day it applies; empty: the day it was first set.", Day(), None
    )
    otherwise: str = described(
        "Zone of the other trees", "Of those with no target in reach; empty: none.", Word(w.OCCUPANCY), ""
    )

    def check(self, before: str) -> None:
        """A zone has one rule."""
        zones = [rule.zone for rule in self.rules]
        if len(set(zones)) != len(zones):
            raise InputError(f"{before}rules", ", ".join(zones), "each zone at most once")


@dataclass(frozen=True, kw_only=True)
class MergeIn:
    """That a plant is a duplicate of another: one tree, recorded twice."""

    into: uuid.UUID = described("Into", "The record that goes on.", Id(to="plant"))
    reason: str = described("Reason", "How it is known.", Text(300), "")


@dataclass(frozen=True, kw_only=True)
class ReportIn:
    """What a coverage report is made of: it is frozen as it is known now."""

    on: datetime.date = described("As of", "The last day that counts.", Day())
    blocks: tuple[uuid.UUID, ...] = described(
        "Blocks", "Of one site; empty: every block of it.", Several(Id(), 200), ()
    )
    note: str = described("Note", "What the reader should know.", Text(1000), "")


@dataclass(frozen=True, kw_only=True)
class Biosecurity:
    """The biosecurity status of a block: rounds go from clean to infested by it."""

    status: str = described("Status", "Clean, suspect or infested.", Word(w.BIOSECURITY))
    cause: str = described("Cause", "For which pest or disease.", Listed("causes"), "")
    since: datetime.date = described("Since", "The first day it holds.", Day())
    lifted_by: str = described(
        "Lifted by", "What would lift it: a test, a season, a treatment.", Text(300), ""
    )
    remark: str = described("Remark", "What else should be known.", Text(300), "")

    def check(self, before: str) -> None:
        """What is not clean says why."""
        if self.status != "clean" and not self.cause:
            raise InputError(before + "cause", "nothing", "the cause, where the block is not clean")


@dataclass(frozen=True, kw_only=True)
class HoldEnd:
    """The end of a movement hold of a block."""

    cause: str = described("Cause", "For which it was held.", Listed("causes"))
    on: datetime.date = described("On", "The day it ended.", Day())
    reference: str = described(
        "Reference", "Number of the laboratory's report or of the authority's letter.", Line(120, 1)
    )
    remark: str = described("Remark", "What else should be known.", Text(300), "")


@dataclass(frozen=True, kw_only=True)
class DaysAway:
    """Days on which a crew does not work here."""

    begins: datetime.date = described("From", "The first day.", Day())
    ends: datetime.date = described("To", "The last day.", Day())

    def check(self, before: str) -> None:
        """They do not end before they begin."""
        if self.ends < self.begins:
            raise InputError(before + "ends", self.ends.isoformat(), f"{self.begins} or a later day")


@dataclass(frozen=True, kw_only=True)
class CrewOfSite:
    """A crew, and how long it works in a week."""

    name: str = described("Name", "As its jobs name it.", Line(80, 1))
    hours: float = described(
        "Hours in a week", "Time of the whole crew on the work itself.", Number(0.5, 2000, "h")
    )
    members: tuple[uuid.UUID, ...] = described(
        "Members", "Whose licences and qualifications it has.", Several(Id(to="member"), 30), ()
    )
    away: tuple[DaysAway, ...] = described(
        "Away", "Days on which it does not work here.", Several(Row(DaysAway), 20), ()
    )


@dataclass(frozen=True, kw_only=True)
class SkillOfSite:
    """Which licence or qualification shows a skill here."""

    skill: str = described("Skill", "What the work asks for.", Word(w.SKILLS))
    qualification: str = described(
        "Qualification asked for", "Its name as it stands with the members.", Line(120, 1)
    )


@dataclass(frozen=True, kw_only=True)
class CauseNear:
    """A pest or disease that is known near the site."""

    cause: str = described("Pest or disease", "As the authority or a neighbour reports it.", Listed("causes"))
    km: float = described("Distance (km)", "To the nearest report; 0: on the site.", Number(0, 20_000))


@dataclass(frozen=True, kw_only=True)
class StormOfSite:
    """A day of wind over 90 km/h, ice or wet snow: trees with defects are looked at within 72 hours."""

    on: datetime.date = described("Day", "The day of the storm.", Day())
    storm: str = described("Storm", "What it was.", Word(w.STORMS))


@dataclass(frozen=True, kw_only=True)
class LookUp:
    """Evidence that covers more than a tree: a site, blocks, a row or street, or a list of trees, as of a
    day. It does not reach trees recorded later.
    """

    evidence: Clearance = described("Evidence", "What was found, by whom.", Row(Clearance))
    on: datetime.date = described("On", "The day of the look.", Day())
    blocks: tuple[uuid.UUID, ...] = described("Blocks", "Empty: the whole site.", Several(Id(), 200), ())
    row: str = described("Row or street", "By the name of the row; empty: every row.", Text(60), "")
    plants: tuple[uuid.UUID, ...] = described("Trees", "Empty: all of them.", Several(Id(), 5000), ())

    def check(self, before: str) -> None:
        """Only what is true of many at once can be said of many."""
        if self.evidence.what not in w.WIDE_EVIDENCE:
            allowed = "one of " + ", ".join(w.WIDE_EVIDENCE)
            raise InputError(before + "evidence.what", self.evidence.what or "nothing", allowed)


MONEY = Number(0, 100_000_000)


@dataclass(frozen=True, kw_only=True)
class WorkSettings:
    """What work of a site is planned with: crews and their hours, licences, weather, rates, money."""

    crews: tuple[CrewOfSite, ...] = described(
        "Crews", "Without one nothing is planned.", Several(Row(CrewOfSite), 12), ()
    )
    skills: tuple[SkillOfSite, ...] = described(
        "Licences asked for",
        "A skill that is not listed is not asked for; local rules take precedence.",
        Several(Row(SkillOfSite), len(w.SKILLS)),
        (),
    )
    weather_lost: tuple[int, ...] = described(
        "Lost to weather (%)",
        "Share of crew time, by month from January: twelve figures, or none.",
        Several(Whole(0, 100), 12),
        (),
    )
    causes_near: tuple[CauseNear, ...] = described(
        "Pests and diseases near",
        "What rules ask for beside the site's own diagnoses, with the distance.",
        Several(Row(CauseNear), 40),
        (),
    )
    storms: tuple[StormOfSite, ...] = described(
        "Storms", "After each one trees with defects are looked at again.", Several(Row(StormOfSite), 40), ()
    )
    egg_masses_limit_per_ha: float | None = described(
        "Threshold for spongy moth (per ha)",
        "From so many egg masses on a block is proposed for treatment; empty: none is, by a count.",
        Number(1, 100_000, "per_ha"),
        None,
    )
    hours_percent: int = described(
        "Hours against the tool's table (%)", "100: as the table has them.", Whole(10, 500), 100
    )
    disinfect_hours: float = described(
        "Disinfection (h)",
        "Of boots, tools and tyres, in a week with work in a block that is not clean.",
        Number(0, 40, "h"),
        0.5,
    )
    currency: str = described("Currency", "As it is written beside sums.", Text(8), "")
    crew_hour: float = described("Crew hour", "What an hour of a crew costs.", MONEY, 0.0)
    lift_hour: float = described("Lift hour", "What a lift costs besides.", MONEY, 0.0)
    machine_hour: float = described("Machine hour", "What a machine costs besides.", MONEY, 0.0)
    closure_week: float = described("Closure", "What it costs to close a street for a week.", MONEY, 0.0)
    budget: float | None = described("Budget", "Of the year; empty: no limit.", MONEY, None)

    def check(self, before: str) -> None:
        """Each crew, skill and cause once; weather of every month or of none."""
        for field, names in (
            ("crews", [c.name for c in self.crews]),
            ("skills", [s.skill for s in self.skills]),
            ("causes_near", [c.cause for c in self.causes_near]),
            ("storms", [s.on.isoformat() for s in self.storms]),
        ):
            if len(set(names)) != len(names):
                raise InputError(before + field, ", ".join(names), "each at most once")
        if self.weather_lost and len(self.weather_lost) != 12:
            raise InputError(before + "weather_lost", len(self.weather_lost), "twelve figures, or none")


# What is usual where a region's terms are: offered for a new site, never put upon one that is there. Common
# practice: 4.5 ft and a foot of radius per inch of diameter in the United States; BS 5837 measures at 1.5 m;
# AS 4970 at 1.4 m.
USUAL_CONVENTIONS: dict[str, dict[str, Any]] = {
    "us": {"units": "us_customary", "breast_height_m": 1.37, "protection": "foot_per_inch"},
    "uk": {"units": "metric", "breast_height_m": 1.5, "protection": "bs5837"},
    "au": {"units": "metric", "breast_height_m": 1.4, "protection": "as4970"},
}

OFFICE: dict[str, type[Any]] = {
    "site": Site,
    "block": Block,
    "target": Target,
    "regime": Regime,
    "merge": MergeIn,
    "report": ReportIn,
    "biosecurity": Biosecurity,
    "hold_end": HoldEnd,
    "work_settings": WorkSettings,
    "look_up": LookUp,
    "contact": Contact,
    "competence": Competence,
}


def office_fields(name: str) -> dict[str, Described]:
    """The fields of one of these things, in the order in which they are shown."""
    return dict(fields_of(OFFICE[name]))
