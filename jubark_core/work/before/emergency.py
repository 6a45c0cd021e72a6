"""What an emergency asks for, and what it passes."""

from __future__ import annotations

from typing import Any

from jubark_core.work.before.evidence import Asked
from jubark_core.work.before.wildlife import in_use_until
from jubark_core.work.facts import Facts

DANGEROUS = ("imminent", "hanger_over_target", "fresh_movement")
LEAST_CHECKS = ("C1", "C2a", "C2b", "C3", "C5")  # of which it may pass each on its own terms; no other


def lacks(emergency: dict[str, Any], step: str, asked: Asked) -> list[str]:
    """What is missing for it to be one."""
    facts = asked.facts
    found = []
    ordered = emergency.get("danger") == "ordered" and str(emergency.get("ordered_by") or "").strip()
    if not (is_dangerous(facts) or ordered):
        found.append(
            "An emergency removes an imminent danger: on record, recorded at the tree in the same visit, or "
            "ordered by a duty officer by telephone."
        )
    if not asked.shows(str(emergency.get("lead") or ""), "emergency_lead"):
        found.append("A member with a paper for naming emergencies, valid on the day, answers for it.")
    if not str(emergency.get("reason") or "").strip():
        found.append("The emergency names its reason.")
    if emergency.get("least_work") is not True:
        found.append("In an emergency no more is done than removes the danger.")
    if step == "completed" and not _photographed(emergency):
        found.append("Photographs before and after, or why there are none.")
    return found


def is_dangerous(facts: Facts) -> bool:
    """Whether a danger that cannot wait stands on record."""
    urgent = any(facts.of.get(name) is True for name in DANGEROUS)
    return urgent or bool(facts.of.get("storm_asks")) or facts.of.get("rating") == "extreme"


def passes(check: str, emergency: dict[str, Any], asked: Asked) -> bool:
    """Whether it passes an open check. Never lines, services, held wood, poison, people or the crew."""
    if check not in LEAST_CHECKS:
        return False
    nobody = emergency.get("nobody_to_be_had") is True and emergency.get("least_work") is True
    if check == "C1":
        return emergency.get("not_known_protected") is True
    if check == "C2a":
        return emergency.get("nests_looked_for") is True and (in_use_until(asked, None) is None or nobody)
    if check == "C2b":
        possible = emergency.get("roost_possible") is True or bool(asked.facts.hollows)
        return emergency.get("nests_looked_for") is True and (not possible or nobody)
    if check == "C3":
        return emergency.get("least_work") is True
    return True


def _photographed(emergency: dict[str, Any]) -> bool:
    return emergency.get("photographed") is True or bool(str(emergency.get("no_photograph") or "").strip())
