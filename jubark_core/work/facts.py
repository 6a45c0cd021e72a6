"""The facts of a case as the rules ask for them."""

from __future__ import annotations

import datetime
import math
from dataclasses import dataclass
from typing import Any

from jubark_core.checks import require_date
from jubark_core.errors import InputError
from jubark_core.flora.model import Flora
from jubark_core.records.words import shown_word
from jubark_core.season.place import Place
from jubark_core.signs.case import HealthCase, cause_id
from jubark_core.signs.hosts import chain, known_taxa, susceptibility
from jubark_core.signs.load import health
from jubark_core.signs.prior import is_reported_now
from jubark_core.work.before.area import AreaRules, rules_of_areas
from jubark_core.work.load import flowering_wood
from jubark_core.work.look_again import (
    after_storm,
    doubtful_diameters,
    fungus_shows_now,
    inspection_due,
    name_shows_now,
)
from jubark_core.work.model import Condition
from jubark_core.work.outbreak import egg_masses_over, egg_masses_seen, loss_is_old, second_year_of
from jubark_core.work.surroundings import (
    climbers_on,
    crown_short,
    reaches_wires,
    room_to_plant,
    works_within,
)

REACH_HEIGHTS = 1.5
DEFAULT_HEIGHT_M = 15.0
NAME_FOR_AN_ACT = (
    0.5  # a rule of a genus asks for it at this rank and no surer; what destroys asks for more (C1)
)
DEAD_WOOD = ("dead_limb", "hanger", "broken_top")
HOLLOWS = (
    *("trunk_cavity", "limb_cavity", "base_cavity", "water_filled_hollow", "woodpecker_hole", "loose_bark"),
    *("ivy_or_moss", "roost"),
)
HOLLOW_DEFECTS = ("cavity", "crack", "sap_rot", "lightning")
MOVING = ("root_plate_movement", "soil_crack", "crack")
ASH = "fraxinus"
DECAYED = ("cavity", "crack", "decay_fungus", "sap_rot", "broken_top", "lightning")
BRITTLE_LOSS = 50.0
PATHS = ("path", "road", "playground", "seat_or_shelter")
SUSPECTED = 0.2


@dataclass(frozen=True)
class Facts:
    """A case read: `of` holds the plain facts by name."""

    raw: dict[str, Any]
    on: datetime.date
    place: Place
    area: AreaRules
    areas: tuple[str, ...]
    taxon: str
    probability: float
    of: dict[str, Any]
    agents: dict[str, float]
    km: dict[str, float]

    @property
    def targets_in_reach(self) -> list[dict[str, Any]]:
        """The targets the tree can reach as it falls."""
        reach = REACH_HEIGHTS * (self.raw.get("height_m") or DEFAULT_HEIGHT_M)
        return [t for t in self.raw.get("targets", []) if t["distance_m"] <= reach]

    @property
    def hollows(self) -> list[str]:
        """What is on record that could hold a roost or a hollow nest."""
        told = [word for word in self.raw.get("habitats") or () if word in HOLLOWS]
        told += [d["defect"] for d in self.raw.get("defects", []) if d["defect"] in HOLLOW_DEFECTS]
        if any(c.get("hides") for c in self.raw.get("climbers", [])):
            told.append("ivy_or_moss")
        return [word.replace("_", " ") for word in dict.fromkeys(told)]

    def permitted_on_wires(self, on: datetime.date) -> bool:
        """Whether the operator permits work on the day, by a crew qualified for line clearance."""
        return any(
            require_date("wire_permits.begins", permit["begins"])
            <= on
            < require_date("wire_permits.until", permit["until"])
            for permit in self.raw.get("wire_permits", [])
        )

    def holds(self, condition: Condition, flora: Flora) -> bool:
        """Whether a condition holds; what is not known never does."""
        if condition.fact == "agent":
            return self.agents.get(condition.about, 0.0) >= float(condition.value)
        if condition.fact == "about":
            return condition.about in self.km or condition.about in self.agents
        if condition.fact == "near":
            found = self.agents.get(condition.about, 0.0) >= SUSPECTED
            return found or self.km.get(condition.about, 1e9) <= float(condition.value)
        if condition.fact == "host_of":
            cause = health().causes[condition.about]
            return bool(self.taxon) and susceptibility(cause, self.taxon, flora) >= float(condition.value)
        if condition.fact == "area_has":
            return bool(getattr(self.area, condition.value))
        value = self.of.get(condition.fact)
        if condition.fact in ("genus", "taxon") and condition.op in ("is", "in", "not_in"):
            return self._is_of(condition, flora)
        return _compared(value, condition)

    def _is_of(self, condition: Condition, flora: Flora) -> bool:
        wanted = condition.value.split(",")
        inside = not set(wanted).isdisjoint(chain(self.taxon, flora))
        return not inside if condition.op == "not_in" else inside


def _compared(value: Any, condition: Condition) -> bool:
    op, wanted = condition.op, condition.value
    if op == "is" and wanted in ("true", "false"):
        return value is (wanted == "true")
    if value is None or value == "" or value == []:
        return False
    match op:
        case "is":
            return bool(str(value) == wanted)
        case "is_not":
            return bool(str(value) != wanted)
        case "in":
            return str(value) in wanted.split(",")
        case "has":
            return wanted in value
        case "has_any":
            return not set(wanted.split(",")).isdisjoint(value)
        case "at_least":
            return bool(float(value) >= float(wanted))
        case "at_most":
            return bool(float(value) <= float(wanted))
        case "above":
            return bool(float(value) > float(wanted))
        case "below":
            return bool(float(value) < float(wanted))
    return True  # known


def read_facts(raw: Any, flora: Flora) -> Facts:
    """The facts of a case whose shape has been checked. Raises InputError naming the place."""
    on = require_date("on", raw["on"])
    taxon, probability = _host(raw["host"], flora)
    areas = tuple(sorted(set(raw.get("areas", []))))
    for i, code in enumerate(raw.get("areas", [])):
        if code not in flora.areas:
            raise InputError(f"areas[{i}]", code, "a TDWG level 3 code, e.g. PEN")
    place = Place(raw.get("lat"), raw.get("lon"), raw.get("elevation_m"))
    agents = {
        cause_id(f"diagnoses[{i}].agent", d["agent"]): d["probability"]
        if d.get("standing") != "ruled_out"
        else 0.0
        for i, d in enumerate(raw.get("diagnoses", []))
    }
    km = {cause_id(f"causes_km.{name}", name): far for name, far in raw.get("causes_km", {}).items()}
    area = rules_of_areas(areas)
    found = Facts(raw, on, place, area, areas, taxon, probability, {}, agents, km)
    found.of.update(_plain(found, flora))
    return found


def _host(rows: Any, flora: Flora) -> tuple[str, float]:
    known = known_taxa(flora)
    best = ("", 0.0)
    for i, row in enumerate(rows):
        taxon = flora.resolve.get(row["taxon"], row["taxon"])
        if taxon not in known:
            raise InputError(f"host[{i}].taxon", row["taxon"], "the id of a taxon, e.g. fraxinus-americana")
        probability = row.get("probability", 1.0)
        if probability > best[1]:
            best = (taxon, probability)
    return best


def _plain(facts: Facts, flora: Flora) -> dict[str, Any]:
    raw = facts.raw
    risk = raw.get("risk") or {}
    defects = raw.get("defects", [])
    dead = [d for d in defects if d["defect"] in DEAD_WOOD]
    near = facts.targets_in_reach
    node = flora.taxa.get(facts.taxon, {})
    kinds = {t["kind"] for t in near}
    climbing = climbers_on(raw, facts.areas, flora)
    room = room_to_plant(raw)
    return {
        "genus": next(
            (n for n in chain(facts.taxon, flora) if flora.taxa.get(n, {}).get("rank") == "genus"),
            facts.taxon,
        ),
        "taxon": facts.taxon,
        "form": raw.get("form", "tree"),
        "life": raw.get("life", "alive"),
        "stage": raw.get("stage", "mature"),
        "dbh_cm": raw.get("dbh_cm"),
        "crown_loss_percent": raw.get("crown_loss_percent"),
        "years_planted": _years(raw.get("planted_on"), facts.on),
        "defects": [d["defect"] for d in defects],
        "dead_wood_cm": max((d.get("break_cm") or 0 for d in dead), default=None),
        "dead_wood_over_target": any(d.get("over_target") for d in dead) if dead else None,
        "hanger_over_target": any(d["defect"] == "hanger" and d.get("over_target") for d in defects),
        "fresh_movement": any(d["defect"] in MOVING and d.get("fresh") for d in defects),
        "defect_beyond_look": raw.get("defect_beyond_look"),
        "rating": risk.get("rating"),
        "imminent": risk.get("imminent"),
        "base_seen": raw.get("base_seen") or risk.get("base_seen"),
        "crown_seen": risk.get("crown_seen"),
        "flare": raw.get("flare"),
        "condition": raw.get("condition"),
        "target_in_reach": bool(near) if "targets" in raw else None,
        "path_near": not kinds.isdisjoint(PATHS) if "targets" in raw else None,
        "off_paths": bool(near) and kinds.isdisjoint(PATHS),
        "notifiable_now": _notifiable(facts, flora),
        "confirmed_causes": [
            d["agent"] for d in raw.get("diagnoses", []) if d.get("standing") == "confirmed"
        ],
        **_state(facts, flora),
        "is_invasive": _is_invasive(node, facts.areas),
        "wires_m": raw.get("wires_m"),
        "on_wires": raw.get("on_wires"),
        "storm_asks": shown_word(raw["storm_asks"]) if raw.get("storm_asks") else None,
        "reaches_wires": reaches_wires(raw, facts.taxon, flora),
        "clearance_short": crown_short(raw),
        "climber_introduced": climbing["introduced"],
        "climber_toxic": climbing["toxic"],
        "climber_hides": climbing["hiding"],
        "works_in_zone": works_within(raw, facts.on),
        "room_to_plant": room,
        "inspection_due": inspection_due(raw, facts.on, near),
        "after_storm": after_storm(raw, facts.on),
        "name_shows_now": name_shows_now(raw, facts.probability),
        "diameters_doubtful": doubtful_diameters(raw),
        "fungus_shows_now": fungus_shows_now(raw, facts.on, facts.place),
        "worth": raw.get("worth"),
        "loss_is_old": loss_is_old(raw, facts.on),
        "egg_masses_seen": egg_masses_seen(raw, facts.on, facts.place),
        "egg_masses_over": egg_masses_over(raw, facts.on, facts.place),
        "second_year_of": second_year_of(raw, facts.on),
        "wanted": raw.get("wanted"),
        "habitats": raw.get("habitats"),
        "soil_borne_about": raw.get("soil_borne_about"),
        "flowers_on": raw.get("flowers_on") or _flowers_on(facts, flora),
        "held_wood": raw.get("held_wood", False),
    }


def _state(facts: Facts, flora: Flora) -> dict[str, bool]:
    """Whether it is dead ash or as brittle, decayed, and dead or dangerous."""
    raw, risk = facts.raw, facts.raw.get("risk") or {}
    defects = {d["defect"] for d in raw.get("defects", [])}
    dead = raw.get("life") == "standing_dead" or raw.get("condition") == "dead"
    lost = (raw.get("crown_loss_percent") or 0.0) > BRITTLE_LOSS
    fresh = any(d["defect"] in MOVING and d.get("fresh") for d in raw.get("defects", []))
    danger = bool(risk.get("imminent")) or risk.get("rating") == "extreme" or fresh
    return {
        "brittle_ash": (dead or lost) and ASH in chain(facts.taxon, flora),
        "decayed": dead or raw.get("condition") == "very_poor" or not defects.isdisjoint(DECAYED),
        "dead_or_dangerous": dead or danger or bool(raw.get("storm_asks")),
    }


def _flowers_on(facts: Facts, flora: Flora) -> str:
    """Last year's wood or this year's, by the species or its genus; '' where the table does not say."""
    table = flowering_wood()
    return next((table[node] for node in chain(facts.taxon, flora) if node in table), "")


def _years(planted: Any, on: datetime.date) -> int | None:
    """Whole years since it was planted; None where it was not, or is not yet."""
    days = (on - require_date("planted_on", planted)).days if planted else -1
    return math.floor(days / 365.25) if days >= 0 else None


def _is_invasive(node: dict[str, Any], areas: tuple[str, ...]) -> bool | None:
    if not areas or "invasive" not in node:
        return None
    return not set(areas).isdisjoint(node["invasive"])


def _notifiable(facts: Facts, flora: Flora) -> list[str]:
    """Causes that have to be told here now: suspected from 0.2."""
    case = HealthCase(on=facts.on, place=facts.place, hosts=(), signs=(), areas=facts.areas)
    return sorted(
        cause
        for cause, p in facts.agents.items()
        if p >= SUSPECTED and is_reported_now(health().causes[cause], case, flora)
    )
