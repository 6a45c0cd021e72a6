"""The coverage report: of every tree of some blocks, what was recorded of looking at it up to a day."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from typing import Any
from uuid import UUID

from apps.inspections.known_on import KnownTree, end_of_day, put_targets, trees_known
from apps.inspections.selectors import competences_known, regime_known, targets_known
from apps.organisations.models import Competence, Contact, Member
from apps.sites.models import Block, Site
from config.errors import BadInput
from jubark_core.inspection.coverage import MOST_TREES, STATES, InspectedTreeIn, coverage
from jubark_core.inspection.regime import LookedAt, rule_of, zone_of
from jubark_core.records.fields import write
from jubark_core.tree_file.looks import Look

LOOKS = ("last", "counted", "shown")  # where a row names an inspector
IN_TIME = ("done", "competence")
MEMBER, CONTACT = "member:", "contact:"


def coverage_report(
    site: Site, blocks: Sequence[Block], on: datetime.date, at: datetime.datetime | None = None
) -> dict[str, Any]:
    """What is known at a moment of inspections up to a day; at: the end of that day where nothing else is
    said. Inspectors stand in it by id; `with_names` puts names in their places.

    Raises BadInput for more than 20,000 trees.
    """
    moment = at or end_of_day(site, on)
    trees = trees_known(blocks, on, moment)
    if len(trees) > MOST_TREES:
        raise BadInput("blocks", f"{len(trees)} trees", f"blocks with at most {MOST_TREES} trees together")
    regime, since = regime_known(site, moment)
    put_targets(trees, targets_known(site, moment), regime)
    papers = competences_known(site.organisation_id, moment)
    asked: list[InspectedTreeIn] = []
    for tree in trees:
        rule = rule_of(zone_of(tree.height_m, tree.targets, regime), regime)  # type: ignore[arg-type]
        asked.append(_asked(tree, since, rule.qualification if rule else "", papers))
    found = coverage({"on": on.isoformat(), "regime": write(regime), "trees": asked})
    by_plant = {str(tree.plant): tree for tree in trees}
    names = {block.id: block.name for block in blocks}
    rows = [{**row, **_label(by_plant[row["tree"]], names)} for row in found["trees"]]
    rows.sort(key=lambda row: (row["block"], row["street"], row["tag"] or "~", row["tree"]))
    return {
        "site": site.name,
        "blocks": sorted(names.values()),
        "on": on.isoformat(),
        "known_at": moment.isoformat(timespec="seconds"),
        "regime": write(regime),
        "applies_from": "" if since == datetime.date.max else since.isoformat(),
        "states": [{"state": s, "says": STATES[s], "trees": n} for s, n in found["states"].items()],
        "by_block": by_block(rows),
        "overdue": found["overdue"],
        "parts_not_seen": found["parts_not_seen"],
        "method": found["method"],
        "limits": found["limits"],
        "rows": rows,
    }


def by_block(rows: Sequence[dict[str, Any]]) -> list[dict[str, Any]]:
    """How the trees of each block stand, in short; blocks by name."""
    found: dict[str, dict[str, Any]] = {}
    for row in rows:
        block = found.setdefault(
            row["block"], {"block": row["block"], "trees": 0, "in_time": 0, "not_looked_at": 0, "overdue": 0}
        )
        block["trees"] += 1
        block["in_time"] += row["state"] in IN_TIME
        block["not_looked_at"] += row["last"] is None
        block["overdue"] += row["overdue"]
    return [found[name] for name in sorted(found)]


def _asked(
    tree: KnownTree, since: datetime.date, qualification: str, papers: dict[object, list[Competence]]
) -> InspectedTreeIn:
    found: InspectedTreeIn = {
        "tree": str(tree.plant),
        "since": min(max(since, tree.recorded_on), LAST_DAY).isoformat(),
        "height_m": tree.height_m,
        "targets": tree.targets,  # type: ignore[typeddict-item]
        "rating": tree.rating,
        "looks": [
            _look(look, tree.inspectors[look.entry], qualification, papers) for look in tree.file.looks
        ],
    }
    if named := tree.file.now["next_inspection"]:
        found["next_inspection"] = named.isoformat()
    return found


LAST_DAY = datetime.date(2190, 1, 1)  # of a table that applies from no day on: nothing falls due by it


def _look(
    look: Look,
    inspector: tuple[UUID | None, UUID | None],
    qualification: str,
    papers: dict[object, list[Competence]],
) -> LookedAt:
    member, contact = inspector
    told: LookedAt = {
        "on": look.on.isoformat(),
        "level": look.level,
        "base_visible": look.base_visible,
        "crown_visible": look.crown_visible,
        "no_defect": look.no_defect,
        "walked": look.walked,
        "no_access": look.no_access,
        "inspector": f"{CONTACT}{contact}" if contact else f"{MEMBER}{member}",
    }
    if qualification:
        held = [p for p in papers.get(member, []) if p.name.casefold() == qualification.casefold()]
        told |= competence_on(held, look.on)  # type: ignore[typeddict-item]
    return told


def competence_on(held: Sequence[Competence], day: datetime.date) -> dict[str, str]:
    """How a qualification stood on a day: valid, expired and when, or not on record."""
    if any(paper.valid_on(day) for paper in held):
        return {"competence": "valid"}
    ended = [paper.valid_until for paper in held if paper.valid_until and paper.valid_until < day]
    if ended:
        return {"competence": "expired", "expired_on": max(ended).isoformat()}
    return {"competence": "none"}


def _label(tree: KnownTree, names: dict[UUID, str]) -> dict[str, str]:
    return {
        "tag": tree.file.now["tag"],
        "name": tree.file.now["name"],
        "street": tree.row_name,
        "block": names[tree.block],
        "rating": tree.rating,
    }


def with_names(report: dict[str, Any]) -> dict[str, Any]:
    """The report with the people of it by the names they have now."""
    ids = {
        look["inspector"]
        for row in report["rows"]
        for look in (row[which] for which in LOOKS)
        if look and look.get("inspector")
    }
    wanted = [UUID(told.split(":", 1)[1]) for told in ids if not told.endswith(":None")]
    people: dict[str, str] = {
        f"{MEMBER}{m.id}": m.shown_name for m in Member.objects.filter(pk__in=wanted)
    } | {f"{CONTACT}{c.id}": c.shown_name for c in Contact.objects.filter(pk__in=wanted)}

    def named(look: dict[str, Any] | None) -> dict[str, Any] | None:
        return look and {**look, "inspector": people.get(look.get("inspector", ""), "")}

    rows = [
        {**_overdue_or_not(row), **{which: named(row[which]) for which in LOOKS}} for row in report["rows"]
    ]
    return {**report, "rows": rows}


def _overdue_or_not(row: dict[str, Any]) -> dict[str, Any]:
    """A report frozen by an earlier version counted days, which are of the day it was made."""
    return row if "overdue" in row else {**row, "overdue": row["overdue_days"] > 0}
