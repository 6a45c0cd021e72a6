"""Cases of trees as rules of work take them, for the tests of work."""

from __future__ import annotations

from typing import Any

from jubark_core.flora.load import shipped_flora
from jubark_core.records.words import EVIDENCE
from jubark_core.work.before.acts import acts
from jubark_core.work.before.steps import may_take_step
from jubark_core.work.propose import propose

FLORA = shipped_flora()
HERE: dict[str, Any] = {"lat": 40.5, "lon": -79.3, "areas": ["PEN"]}
BRITAIN: dict[str, Any] = {"lat": 52.0, "lon": -1.0, "areas": ["GRB"]}
PATH = [{"kind": "path", "distance_m": 5}]
PLAY = [{"kind": "playground", "distance_m": 4}]


def case(
    taxon: str = "acer-saccharum", on: str = "2026-06-10", probability: float = 1.0, **more: Any
) -> dict[str, Any]:
    return {"on": on, "host": [{"taxon": taxon, "probability": probability}], **HERE, **more}


def fired(given_: dict[str, Any]) -> dict[str, Any]:
    return {p["rule"]: p for p in propose(given_, FLORA)["proposals"]}


def held(given_: dict[str, Any]) -> dict[str, str]:
    return {h["rule"]: h["why"] for h in propose(given_, FLORA)["held_back"]}


WANTS = {"wanted": ["live_pruning"]}

ANA, BEN, BAT, FOX, LENA, FIRM = "ana", "ben", "bat", "fox", "lena", "firm"
CREW = "Crew 1"
ON_SITE = ("felling", "climbing", "lift_operation", "machine_operation", "pesticide_application")
PEOPLE = {
    ANA: [{"skill": skill} for skill in (*ON_SITE, "line_clearance", "roost_look")],
    BEN: [{"skill": skill} for skill in ("climbing", "rescue", "tree_assessment", "emergency_lead")],
    BAT: [{"skill": "bat_ecology", "until": "2027-12-31"}, {"skill": "bird_ecology"}],
    FOX: [{"skill": skill} for skill in ("wildlife_biology", "fauna_check")],
    FIRM: [{"skill": "approved_contractor"}, {"skill": "insurance", "until": "2026-12-31"}],
}
CREWS = {CREW: [ANA, BEN]}
CHECK_OF = {kind: check for check, kinds in EVIDENCE.items() for kind in kinds}
EVERY_ACT = list(acts())


def told(kind: str, person: str = ANA, at: str = "2026-06-10T06:00:00-04:00", **more: Any) -> dict[str, Any]:
    """A piece of evidence of a kind."""
    row = {
        "check": CHECK_OF[kind],
        "kind": kind,
        "person": person,
        "at": at,
        "on": at[:10],
        "reference": "N 7",
    }
    return {**row, **more}


def everything(at: str, until: str = "2030-01-01") -> list[dict[str, Any]]:
    """What closes every check of any act, given shortly before work begins."""
    return [
        told("second_person", BEN, at),
        told("nest_look", at=at, result="none"),
        told("hollow_look", at=at, result="none"),
        told("roost_assessment", FOX, at, result="none", until=until),
        told("look_up", at=at, result="none"),
        told("line_look", at=at, result="none"),
        told("services_located", at=at, until=until),
        told("owner_look_up", at=at, result="own"),
        told("applicator", at=at, answered=["water", "bees", "neighbours"]),
        told("closure_plan", at=at),
        told("climb_finding", BEN, at),
    ]


def ready(at: str = "2026-06-10T06:00:00-04:00", **more: Any) -> dict[str, Any]:
    """What a case says besides, so that every check of any act is closed for work of that day."""
    base = {"people": PEOPLE, "crews": CREWS, "namer": LENA, "evidence": everything(at)}
    return {**base, "named_by_person": True, **more}


def asked(given_: dict[str, Any], rule: str, step: str = "started", **more: Any) -> dict[str, Any]:
    """What a step of a job of the rule is answered, by the crew of the site, in the morning of its day."""
    on = more.pop("on", given_["on"])
    at = more.pop("at", f"{on}T08:00:00-04:00")
    stage = {"accepted": "", "started": "planned", "completed": "started"}.get(step, "accepted")
    begun = {"begun_at": at} if step == "completed" else {}
    step_in = {"rule": rule, "step": step, "on": on, "at": at, "crew": CREW, "stage": stage, **begun, **more}
    return dict(may_take_step({"case": given_, **step_in}, FLORA))


def open_checks(answer: dict[str, Any]) -> list[str]:
    """Which of its checks stand open."""
    return [check["check"] for check in answer["checks"] if check["open"]]
