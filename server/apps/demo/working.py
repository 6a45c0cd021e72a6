"""Work of Brindle Fold: jobs at every step, a refusal with its reason, checks somebody closed. Invented."""

from __future__ import annotations

import datetime
import uuid
from typing import Any

from apps.organisations.models import Member
from apps.organisations.services.competences import add_competence
from apps.plants.incoming import read_plant, read_visit
from apps.plants.selectors import trees_visible_to
from apps.plants.services.take_records import take_records
from apps.sites.models import Block, Site
from apps.work.jobs import work_of_site
from apps.work.models import PlanRun
from apps.work.services.look_ups import make_look_up
from apps.work.services.set_work_settings import set_work_settings
from apps.work.year_plan.run import run_plan
from apps.work.year_plan.solve import Limits

IDS = uuid.UUID("6d0f3a52-8a1c-4c55-9f0e-2b7f5d0a1e18")
NAME = {"check_closed": "C1", "what": "not_known_protected", "reference": "photograph 3"}
NESTS = {"check_closed": "C2a", "what": "nest_look", "result": "none"}
HOLLOW = {"check_closed": "C2b", "what": "hollow_look", "result": "none"}
LINES = {"check_closed": "C4", "what": "line_look", "result": "none"}
OWNER = {"check_closed": "C5", "what": "owner_look_up", "result": "own"}
CONSENT = {"check_closed": "C3", "what": "look_up", "result": "none", "by": "the borough"}
TRAFFIC = {"check_closed": "C8", "what": "closure_plan", "by": "the road office", "reference": "TP 14"}
AHEAD_DAYS = 45
NURSERY, PLANTED, STOCK = "Nursery Lines", 24, ("bare_root", "container")
YARD, VACANT_APART_DEGREES = "Mill Yard", 0.00008
ROOTING_M3 = (24.0, 9.5, 41.0)  # of the vacant planting sites
STORM_DAYS_AGO = 9
Steps = list[tuple[int, list[dict[str, Any]], dict[str, Any]]]  # days ago, clearances, the step

# rule, which of its trees, the steps of the job; those are passed over whose rule proposes nothing on the day
JOBS: tuple[tuple[str, int, Steps], ...] = (
    (
        "R24",
        1,
        [
            (20, [NAME, OWNER, CONSENT, TRAFFIC, HOLLOW], {"step": "accepted"}),
            (
                12,
                [],
                {
                    "step": "planned",
                    "in_days": AHEAD_DAYS,
                    "equipment": "mechanised",
                    "crew": "Crew 1",
                    "hours": 6,
                    "route": "chipped on the site",
                },
            ),
        ],
    ),
    ("R24", 2, [(20, [], {"step": "accepted"})]),
    ("R24", 3, [(20, [OWNER], {"step": "accepted"})]),
    (
        "R06",
        1,
        [
            (16, [OWNER], {"step": "accepted"}),
            (9, [NESTS, HOLLOW, LINES, TRAFFIC], {"step": "started", "crew": "Crew 1", "equipment": "lift"}),
            (
                9,
                [],
                {
                    "step": "completed",
                    "result": "Three dead limbs to the collar, the largest 11 cm",
                    "hours": 2.5,
                },
            ),
        ],
    ),
    ("R06", 2, [(6, [], {"step": "accepted"})]),
    (
        "R03",
        1,
        [
            (8, [OWNER, CONSENT, TRAFFIC, HOLLOW], {"step": "accepted"}),
            (7, [], {"step": "planned", "in_days": 12, "equipment": "lift", "crew": "Crew 1", "hours": 8}),
        ],
    ),
    (
        "R33",
        1,
        [(15, [], {"step": "refused", "reason": "Cover for birds this winter; looked at again in spring"})],
    ),
)


# rule, how many of its trees, what is said beside: taken up a month ago, for the plan of the year
TAKEN_UP: tuple[tuple[str, int, dict[str, Any]], ...] = (
    ("R24", 9, {"equipment": "mechanised", "street": "Avenue path", "traffic": "path closed, banksman"}),
    ("R06", 9, {"equipment": "lift", "standard": "pruning to the branch collar"}),
    ("R33", 16, {"equipment": "ground"}),
    ("R38", 4, {"equipment": "ground"}),
    ("R21", 2, {}),
    ("R19", 1, {"equipment": "lift"}),
    ("R16", 3, {"equipment": "lift", "clearance_m": 2.5}),
    ("R34", 2, {"equipment": "ground"}),
    ("R37", 1, {"equipment": "ground"}),
)
# the name of the paper by the skill it shows; who holds it, and for how many days from the demonstration's
LICENCES = {
    "climbing": ("Tree climbing and rescue", "surveyor", 400),
    "felling": ("Chainsaw felling", "steward", 700),
    "machine_operation": ("Forestry machine operator", "steward", 500),
    "pesticide_application": ("Pesticide applicator", "surveyor", 250),
    "lift_operation": ("Lift operator", "steward", 330),
    "rescue": ("Aerial rescue", "surveyor", 400),
    "tree_assessment": ("Tree risk assessor", "steward", 900),
    "emergency_lead": ("Duty lead for emergencies", "owner", 600),
}
LOOKED_UP, LOOKED_UP_DAYS_AGO = YARD, 40


def set_up(site: Site, people: dict[str, Member], today: datetime.date) -> None:
    """Jobs from what the files propose, through the one door of all records and its pre-work checks; crews,
    licences and rates; and a plan of the year.
    """
    steward = people["steward"]
    _plant(site, steward, today)
    for skill, (name, role, days) in LICENCES.items():
        until = today + datetime.timedelta(days=days)
        paper = {"name": name, "skill": skill, "valid_until": until.isoformat()}
        add_competence(actor=steward, member=people[role], given=paper)
    set_work_settings(actor=steward, site=site, given=_settings(people, today))
    _look_up(site, steward, today)
    _take_up(site, steward, today)
    run = PlanRun.objects.create(
        organisation_id=site.organisation_id, site=site, starts=today, asked_by=steward
    )
    run_plan(str(run.id), Limits(seconds=12.0))


def _plant(site: Site, steward: Member, today: datetime.date) -> None:
    """Young trees of the nursery as they were planted, and places in the yard where nothing stands yet."""
    young = trees_visible_to(steward).filter(block__site=site, block__name=NURSERY).order_by("tag")[:PLANTED]
    visits = []
    for i, current in enumerate(young):
        on = today.replace(year=today.year - 2 - i % 2, month=3, day=10 + i % 5)
        planting = {"planted_on": on.isoformat(), "stock": STOCK[i % 2], "support": "one_stake"}
        visits.append(_day(f"planting {current.pk}", str(current.pk), on, 9, [("planting", planting)]))
    yard = Block.objects.get(site=site, name=YARD)
    middle = yard.boundary.centroid
    plants = [
        {
            "id": str(uuid.uuid5(IDS, f"vacant {i}")),
            "block": str(yard.id),
            "form": "vacant",
            "lon": middle.x + (i - 1) * VACANT_APART_DEGREES,
            "lat": middle.y,
            "how_taken": "surveyed",
            "row_name": "Forecourt pits",
            "row_position": i + 1,
            "recorded_at": f"{today.isoformat()}T08:00:00+00:00",
        }
        for i, _ in enumerate(ROOTING_M3)
    ]
    for plant, volume in zip(plants, ROOTING_M3, strict=True):
        place, id = {"surface": "open_soil", "rooting_m3": volume}, str(plant["id"])
        visits.append(_day(f"place {id}", id, today, 8, [("place", place)]))
    take_records(
        actor=steward,
        plants=[read_plant(p) for p in plants],
        visits=[read_visit(v) for v in visits],
    )


def _settings(people: dict[str, Member], today: datetime.date) -> dict[str, Any]:
    steward, surveyor = str(people["steward"].id), str(people["surveyor"].id)
    return {
        "crews": [
            {"name": "Crew 1", "hours": 12, "members": [steward, surveyor]},
            {"name": "Crew 2", "hours": 8, "members": [surveyor]},
        ],
        "skills": [{"skill": skill, "qualification": row[0]} for skill, row in LICENCES.items()],
        "storms": [{"on": (today - datetime.timedelta(days=STORM_DAYS_AGO)).isoformat(), "storm": "wind"}],
        "egg_masses_limit_per_ha": 600.0,
        "weather_lost": [30, 30, 20, 15, 10, 10, 10, 10, 10, 15, 25, 30],
        "currency": "USD",
        "crew_hour": 95,
        "lift_hour": 40,
        "machine_hour": 110,
        "closure_week": 350,
        "budget": 9_000,
    }


def _look_up(site: Site, steward: Member, today: datetime.date) -> None:
    """Of one block consent and owner were looked up for all of it; of the others nobody has yet."""
    block = Block.objects.filter(site=site, name=LOOKED_UP).first()
    if block is not None:
        on = (today - datetime.timedelta(days=LOOKED_UP_DAYS_AGO)).isoformat()
        for evidence in (CONSENT, OWNER):
            given = {"evidence": evidence, "on": on, "blocks": [str(block.id)]}
            make_look_up(actor=steward, site=site, given=given)


def _take_up(site: Site, steward: Member, today: datetime.date) -> None:
    blocks = list(Block.objects.filter(site=site))
    proposed = work_of_site(steward, site, blocks, today)["proposals"]
    visits = []
    for number, (rule, nth, steps) in enumerate(JOBS):
        rows = [p for p in proposed if p["proposal"]["rule"] == rule and p["tag"]]
        if len(rows) >= nth:
            visits += [_visit(number, i, rows[nth - 1], step, today) for i, step in enumerate(steps)]
    taken = {v["plant"] for v in visits}
    for number, (rule, most, said) in enumerate(TAKEN_UP, start=len(JOBS)):
        rows = [p for p in proposed if p["proposal"]["rule"] == rule and p["plant"] not in taken]
        visits += [
            _visit(number, 0, row, (30, [], {"step": "accepted", **said}), today) for row in rows[:most]
        ]
    take_records(actor=steward, plants=[], visits=[read_visit(v) for v in visits])


def _visit(
    job: int,
    i: int,
    row: dict[str, Any],
    step: tuple[int, list[dict[str, Any]], dict[str, Any]],
    today: datetime.date,
) -> dict[str, Any]:
    ago, clearances, said = step
    day = today - datetime.timedelta(days=ago)
    body = {k: v for k, v in said.items() if k != "in_days"}
    if "in_days" in said:
        begins = today + datetime.timedelta(days=said["in_days"])
        body |= {"begins": begins.isoformat(), "ends": (begins + datetime.timedelta(days=1)).isoformat()}
    proposal = row["proposal"]
    body |= {
        "job": str(uuid.uuid5(IDS, f"{row['plant']} {job}")),
        "rule": proposal["rule"],
        "do": proposal["do"],
        "facts": proposal["facts"],
    }
    entries = [*(("clearance", c) for c in clearances), ("work", body)]
    return _day(f"{row['plant']} {job} {i}", row["plant"], day, 9 + i, entries)


def _day(
    key: str, plant: str, day: datetime.date, hour: int, entries: list[tuple[str, dict[str, Any]]]
) -> dict[str, Any]:
    """A visit to a tree, its ids made from a key."""
    return {
        "id": str(uuid.uuid5(IDS, f"visit {key}")),
        "plant": plant,
        "mode": "desk",
        "local_date": day.isoformat(),
        "observed_at": f"{day.isoformat()}T{hour:02d}:30:00+00:00",
        "observer": "Ilka",
        "entries": [
            {"id": str(uuid.uuid5(IDS, f"entry {key} {n}")), "kind": kind, "body": of}
            for n, (kind, of) in enumerate(entries)
        ],
    }
