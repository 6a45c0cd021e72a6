"""Puts the invented sites into the database, through the same doors files and devices use."""

from __future__ import annotations

import datetime
from random import Random

from django.contrib.auth.models import User
from django.contrib.gis.geos import Point, Polygon
from django.db import transaction

from apps.demo import ailing, inspected, working
from apps.demo.layout import (
    BRINDLE_FOLD,
    SALTMARROW_POINT,
    THISTLE_HOLT,
    SitePlan,
    Stand,
    brindle_fold,
    saltmarrow_point,
    thistle_holt,
    to_degrees,
)
from apps.demo.life import PlantLife
from apps.organisations.models import Member, Organisation, Role
from apps.plants.incoming import read_plant, read_visit
from apps.plants.services.take_records import take_records
from apps.sites.models import Block, Plot, Site
from jubark_core.flora.load import shipped_flora
from jubark_core.records.words import SECTIONS

ORGANISATION_NAME = "Fold & Weir Trust"
PASSWORD = "brindle-fold-demo"
PEOPLE = (
    ("steward", "Ilka", Role.STEWARD),
    ("surveyor", "Bram", Role.SURVEYOR),
    ("viewer", "Odile", Role.VIEWER),
    ("owner", "Tove", Role.OWNER),
)


@transaction.atomic
def make_demo(today: datetime.date, seed: int = 1) -> bool:
    """Make organisation, people and the three sites. False when they are there already."""
    if Organisation.objects.filter(name=ORGANISATION_NAME).exists():
        return False
    organisation = Organisation.objects.create(name=ORGANISATION_NAME)
    members = {}
    for username, shown, role in PEOPLE:
        user = User.objects.create_user(username, password=PASSWORD)
        members[username] = Member.objects.create(
            organisation=organisation, user=user, role=role, shown_name=shown
        )
    fold = make_site(members["steward"], BRINDLE_FOLD, brindle_fold(Random(seed)), today)
    inspected.set_up(fold, BRINDLE_FOLD, members, today)
    ailing.set_up(fold, members["steward"], today)
    working.set_up(fold, members, today)
    make_site(members["steward"], SALTMARROW_POINT, saltmarrow_point(Random(seed)), today)
    make_site(members["steward"], THISTLE_HOLT, thistle_holt(Random(seed)), today)
    return True


def make_site(actor: Member, plan: SitePlan, stands: list[Stand], today: datetime.date) -> Site:
    """One site with its blocks, plots, plants and visits."""
    site = Site.objects.create(
        organisation_id=actor.organisation_id,
        name=plan.name,
        areas=list(plan.areas),
        lat=plan.lat,
        lon=plan.lon,
        elevation_m=plan.elevation_m,
        units=plan.units,
        protection=plan.protection,
        breast_height_m=plan.breast_height_m,
        several_stems=plan.several_stems,
        region=plan.region,
        sections=list(SECTIONS),
    )
    blocks = {}
    for b in plan.blocks:
        ring = [to_degrees(plan, *corner) for corner in (*b.corners, b.corners[0])]
        blocks[b.name] = Block.objects.create(
            organisation_id=actor.organisation_id,
            site=site,
            name=b.name,
            boundary=Polygon(ring, srid=4326),
            setting=b.setting,
            biosecurity=b.biosecurity,
            note=b.note,
        )
        for name, east, north, radius_m in b.plots:
            Plot.objects.create(
                organisation_id=actor.organisation_id,
                block=blocks[b.name],
                name=name,
                centre=Point(*to_degrees(plan, east, north), srid=4326),
                radius_m=radius_m,
            )
    _one_wrong_name(stands)
    plants, visits = [], []
    for number, stand in enumerate(stands):
        life = PlantLife(plan, stand, number, f"{number + 1:04d}", today, shipped_flora())
        plants.append(read_plant(life.plant(str(blocks[stand.block].id))))
        visits += [read_visit(v) for v in life.visits()]
    take_records(actor=actor, plants=plants, visits=visits)
    return site


def _one_wrong_name(stands: list[Stand]) -> None:
    """One maple of the gate row was named wrong at first."""
    for stand in stands:
        if stand.row == "Gate row" and stand.position == 5:
            stand.story = "wrong name"
