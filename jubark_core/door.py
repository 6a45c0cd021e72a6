"""The one door to the core: every operation, JSON in and JSON out, described by TypedDicts.

Command line and HTTP are made from this table, and the browser's worker can be. No operation takes an id of
the server: place, elevation, counts and entries come in the request. An operation takes the flora beside what
is asked; it keeps nothing.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any, Literal, NotRequired, TypedDict

from jubark_core.calendar_here import CalendarHere, CalendarIn, calendar_here
from jubark_core.checks import require_date
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.flora.names import NameFound, names_found
from jubark_core.inspection.coverage import CoverageIn, CoverageOut, coverage
from jubark_core.inspection.day import PlanIn, PlanOut, plan_day
from jubark_core.inspection.storm import Double, DoublesIn, probable_doubles
from jubark_core.naming import contract as n
from jubark_core.naming import engine
from jubark_core.naming.explain import explained
from jubark_core.plates.crown_cards import CrownCard, crown_cards
from jubark_core.plates.draw import draw
from jubark_core.records.json_schema import components
from jubark_core.records.shapes import Schema
from jubark_core.records.typed_schema import Between, hint_schema, require_shape
from jubark_core.records.upgrade import UpgradeIn, UpgradeOut, upgraded
from jubark_core.season.contract import PlaceIn
from jubark_core.season.place import Place
from jubark_core.signs import contract as h
from jubark_core.signs.clock import Clock, ClockIn, DegreeDays, DegreeDaysIn, clock, degree_days
from jubark_core.signs.diagnose import diagnose, signs_to_look_for
from jubark_core.signs.exposure import Exposure, ExposureIn, exposure
from jubark_core.signs.pages import CauseIn, CausePage, CausesIn, ListedCause, cause_page, causes_listed
from jubark_core.size.biomass import Carbon, CarbonIn, carbon
from jubark_core.size.growth import GrowthIn, GrowthOut, growth_of
from jubark_core.size.protect import Protection, ProtectionIn, protection
from jubark_core.size.space import SpaceIn, SpaceRow, space_of_taxon
from jubark_core.size.where import WhereIn, WhereOut, where_to_measure
from jubark_core.species.calendar import Showing, organ_calendar
from jubark_core.species.listing import Listed, listed
from jubark_core.species.portrait import Species, portrait
from jubark_core.species.side_by_side import SideBySide, side_by_side
from jubark_core.species.year import MonthRow, month_sheet
from jubark_core.step_here import StepHereIn, step_here
from jubark_core.tree_file_here import TreeFileIn, TreeFileOut, tree_file_here
from jubark_core.visit_check import CheckedVisit, CheckVisitIn, KnownOfPlant, check_visit
from jubark_core.vocabulary import Tiles, Vocabulary, tiles, vocabulary
from jubark_core.work.before.steps import may_take_step
from jubark_core.work.contract import JobAnswer, JobIn, Proposals, WorkCaseIn
from jubark_core.work.propose import propose

MOST_CASES = 20


class Nothing(TypedDict):
    """Nothing is asked but the operation itself."""


class WordsIn(TypedDict):
    """What somebody typed for a name, and how many plants of each taxon there are: those come first."""

    words: str
    counts: NotRequired[dict[str, Annotated[int, Between(0, 10**9)]]]


class PlateIn(TypedDict):
    """A part of a taxon on a day."""

    taxon: str
    part: str
    on: str
    place: NotRequired[PlaceIn]
    stage: NotRequired[str]


class Plate(TypedDict):
    """A drawing, to be shown as an image."""

    svg: str


class CrownCardsIn(TypedDict):
    """What is compared."""

    quantity: Literal["transparency_pct", "dieback_pct"]


class TaxonIn(TypedDict):
    """A taxon the flora describes."""

    taxon: str


class DayIn(TypedDict):
    """A day at a place, and how many plants of each taxon there are; without counts every taxon once."""

    on: str
    place: NotRequired[PlaceIn]
    counts: NotRequired[dict[str, Annotated[int, Between(0, 10**9)]]]


class TaxaIn(TypedDict):
    """Two to four taxa on a day at a place."""

    taxa: list[str]
    on: str
    place: NotRequired[PlaceIn]


class MonthIn(TypedDict):
    """The month of a day at a place, and the plants that are there."""

    on: Annotated[str, "Any day of the month."]
    counts: dict[str, Annotated[int, Between(0, 10**9)]]
    place: NotRequired[PlaceIn]


@dataclass(frozen=True)
class Operation:
    """One operation. takes: the TypedDict of its request; gives: that of its answer, or a list of it.

    several: whether a list of requests gives a list of answers. checked: whether its own reader checks the
    request (the naming contract has wordings of its own).
    """

    summary: str
    takes: Any
    gives: Any
    run: Callable[[Any, Flora], Any]
    several: bool = False
    checked: bool = False


def run(operation: str, given: Any, flora: Flora) -> Any:
    """The answer of an operation. Raises InputError for an unknown operation and for bad input, naming the
    place, the value and what is allowed.
    """
    if operation not in OPERATIONS:
        raise InputError("operation", operation, "one of " + ", ".join(OPERATIONS))
    what = OPERATIONS[operation]
    if what.several and isinstance(given, list):
        if len(given) > MOST_CASES:
            raise InputError("cases", len(given), f"at most {MOST_CASES} cases")
        return [what.run(one, flora) for one in given]
    if not what.checked:
        require_shape(what.takes, given)
    return what.run(given, flora)


def door_components() -> dict[str, Schema]:
    """Component name -> schema: every record, and what every operation takes and gives."""
    found = components()
    for what in OPERATIONS.values():
        hint_schema(what.takes, found)
        hint_schema(what.gives, found)
    hint_schema(KnownOfPlant, found)
    return found


def _place(given: Any) -> Place:
    at = given.get("place")
    return Place(at["lat"], at["lon"], at.get("elevation_m")) if at else Place()


def _on(given: Any) -> Any:
    return require_date("on", given["on"])


OPERATIONS: dict[str, Operation] = {
    "name": Operation(
        "Name a plant by evidence: the ranking and what to look at next.",
        n.CaseIn,
        n.NamingAnswer,
        engine.name_plant,
        several=True,
        checked=True,
    ),
    "rank": Operation(
        "The ranking alone.",
        n.CaseIn,
        n.NamingAnswer,
        lambda case, flora: engine.name_plant(case, flora, look_ahead=False),
        several=True,
        checked=True,
    ),
    "next": Operation(
        "What to look at next, and what is withheld because it would harm.",
        n.CaseIn,
        n.NextObservations,
        engine.next_observations,
        several=True,
        checked=True,
    ),
    "explain": Operation(
        "The balance of a case in plain words.", n.CaseIn, n.Explanation, explained, checked=True
    ),
    "not-separated-from": Operation(
        "What a name that one knows is not yet separated from.",
        n.ClaimIn,
        list[n.Rival],
        lambda given, flora: engine.not_separated_from(given["case"], given["taxon"], flora),
    ),
    "find-names": Operation(
        "Taxa by accepted name, synonym or common name, slips of spelling forgiven.",
        WordsIn,
        list[NameFound],
        lambda given, flora: names_found(given["words"][:100], flora, given.get("counts", {})),
    ),
    "vocabulary": Operation(
        "Characters, states, names and fixed words with their labels.",
        Nothing,
        Vocabulary,
        lambda given, flora: vocabulary(flora),
    ),
    "tiles": Operation(
        "A drawing for every state that can be drawn honestly.",
        Nothing,
        Tiles,
        lambda given, flora: tiles(flora),
    ),
    "plate": Operation(
        "A plate of a taxon: its leaf, twig, bark, fruit, flower or habit on a day.",
        PlateIn,
        Plate,
        lambda given, flora: {
            "svg": draw(
                flora, given["taxon"], given["part"], _on(given), _place(given), given.get("stage", "mature")
            )
        },
    ),
    "crown-cards": Operation(
        "Crowns to compare with, one for every five per cent of transparency or dieback.",
        CrownCardsIn,
        list[CrownCard],
        lambda given, flora: crown_cards(given["quantity"]),
    ),
    "species": Operation(
        "A taxon as it is described: names, facts, what it shows, what it is taken for.",
        TaxonIn,
        Species,
        lambda given, flora: portrait(flora, given["taxon"]),
    ),
    "species-list": Operation(
        "The flora as a list: form, areas, what shows on the day, plants by the counts given.",
        DayIn,
        list[Listed],
        lambda given, flora: listed(flora, _on(given), _place(given), given.get("counts", {})),
    ),
    "side-by-side": Operation(
        "Two to four taxa: only what differs, first what can be seen on the day.",
        TaxaIn,
        SideBySide,
        lambda given, flora: side_by_side(flora, given["taxa"], _on(given), _place(given)),
    ),
    "season": Operation(
        "What shows when, for the season ring.",
        DayIn,
        list[Showing],
        lambda given, flora: organ_calendar(flora, _place(given), _on(given), given.get("counts", {})),
    ),
    "calendar": Operation(
        "The dates of a taxon, a cause or a rule of work as they fall at a place, each with its error.",
        CalendarIn,
        CalendarHere,
        calendar_here,
    ),
    "year": Operation(
        "What each taxon of a place shows in a month, and how it is separated from its look-alikes then.",
        MonthIn,
        list[MonthRow],
        lambda given, flora: month_sheet(
            flora, _place(given), given["counts"], _on(given).year, _on(given).month
        ),
    ),
    "tree-file": Operation(
        "What stands of a tree, from the visits of all its records, sent and unsent.",
        TreeFileIn,
        TreeFileOut,
        tree_file_here,
    ),
    "step-here": Operation(
        "Whether a job of a tree may take a step now, by what this device knows of the tree.",
        StepHereIn,
        JobAnswer,
        step_here,
    ),
    "check-visit": Operation(
        "What follows from the entries of a visit, and what speaks against them.",
        CheckVisitIn,
        CheckedVisit,
        check_visit,
    ),
    "space": Operation(
        "Does the grown plant fit: before planting, and for what is there.",
        SpaceIn,
        list[SpaceRow],
        space_of_taxon,
    ),
    "protect": Operation(
        "The ground to keep clear round a tree, by a standard with its own height and rule for stems.",
        ProtectionIn,
        Protection,
        lambda given, flora: protection(given),
    ),
    "carbon": Operation(
        "Dry mass, carbon and CO2 equivalent of trees and of them all, with what is refused counted.",
        CarbonIn,
        Carbon,
        carbon,
    ),
    "growth": Operation(
        "Diameter growth between two readings, with its error band.",
        GrowthIn,
        GrowthOut,
        lambda given, flora: growth_of(given),
    ),
    "where-to-measure": Operation(
        "Where the tape goes, by the form of the stem and the rules of a site.",
        WhereIn,
        WhereOut,
        lambda given, flora: where_to_measure(
            given["form"], given["breast_height_m"], given.get("painted_m"), given.get("rules", {})
        ),
    ),
    "diagnose": Operation(
        "What is wrong with a plant, whether it is serious, what to look at next and what to do.",
        h.HealthCaseIn,
        h.HealthAnswer,
        diagnose,
        several=True,
        checked=True,
    ),
    "signs-to-look-for": Operation(
        "The signs this plant can have now, the most telling first, and those withheld because they harm.",
        h.HealthCaseIn,
        h.SignsToLookFor,
        signs_to_look_for,
        checked=True,
    ),
    "causes": Operation(
        "Every pest, disease and disorder: what it does, whether it is here, and how many hosts stand here.",
        CausesIn,
        list[ListedCause],
        causes_listed,
    ),
    "cause": Operation(
        "A cause: its signs, hosts, false friends, season at the place, spread and usual response.",
        CauseIn,
        CausePage,
        cause_page,
    ),
    "host-exposure": Operation(
        "What share of the plants each grave cause could take, by stems, basal area and crown area.",
        ExposureIn,
        list[Exposure],
        exposure,
    ),
    "pest-clock": Operation(
        "Warmth gathered at the station, and when to look for what.",
        ClockIn,
        Clock,
        clock,
    ),
    "degree-days": Operation(
        "Degree days of a record by a base, a cutoff and a method; a range where days are missing.",
        DegreeDaysIn,
        DegreeDays,
        lambda given, flora: degree_days(given),
    ),
    "coverage": Operation(
        "How trees stand against an owner's table of inspections on a day.",
        CoverageIn,
        CoverageOut,
        lambda given, flora: coverage(given),
    ),
    "plan-day": Operation(
        "What fits into a day, in walking order, and what stays.",
        PlanIn,
        PlanOut,
        lambda given, flora: plan_day(given),
    ),
    "storm-doubles": Operation(
        "Which trees that are down were probably entered twice, by two people.",
        DoublesIn,
        list[Double],
        lambda given, flora: probable_doubles(given),
    ),
    "propose": Operation(
        "What the file of a tree proposes to do, when, after which checks; and what is held back.",
        WorkCaseIn,
        Proposals,
        propose,
        several=True,
    ),
    "job-step": Operation(
        "Whether a job may be accepted, planned, started or completed, and what stands against it.",
        JobIn,
        JobAnswer,
        may_take_step,
    ),
    "upgrade": Operation(
        "A record that an earlier version made, as the current one has it.",
        UpgradeIn,
        UpgradeOut,
        lambda given, flora: upgraded(given),
        checked=True,
    ),
}
