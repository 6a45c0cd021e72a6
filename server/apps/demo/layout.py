"""Where everything stands on the three invented sites: avenues, rows, banks and plots, not confetti.

Positions are metres east and north of the site's origin; they become degrees only at the end.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from random import Random

M_PER_DEGREE = 111_320.0


@dataclass(frozen=True)
class SitePlan:
    """A site with its conventions and blocks."""

    name: str
    lat: float
    lon: float
    elevation_m: float
    areas: tuple[str, ...]
    units: str
    protection: str
    breast_height_m: float
    several_stems: str
    blocks: tuple[BlockPlan, ...]
    region: str = "us"


@dataclass(frozen=True)
class BlockPlan:
    """A block's outline in metres, and what stands in it."""

    name: str
    setting: str
    biosecurity: str
    note: str
    corners: tuple[tuple[float, float], ...]
    plots: tuple[tuple[str, float, float, float], ...] = ()


@dataclass
class Stand:
    """One plant to be made: where it stands, what it truly is, how big it was in the first year."""

    block: str
    taxon: str
    east: float
    north: float
    dbh_cm: float
    origin: str
    stage: str = "mature"
    row: str = ""
    position: int | None = None
    plot: str = ""
    name: str = ""  # where the flora does not hold the taxon
    setting: str = ""  # where it is not the block's
    stems: int = 1
    story: str = ""
    outline: tuple[tuple[float, float], ...] = field(default_factory=tuple)


BRINDLE_FOLD = SitePlan(
    name="Brindle Fold",
    lat=40.5,
    lon=-79.3,
    elevation_m=310,
    areas=("PEN",),
    units="us_customary",
    protection="foot_per_inch",
    breast_height_m=1.37,
    several_stems="squares",
    blocks=(
        BlockPlan(
            "Mill Yard",
            "street",
            "infested",
            "Paved, made ground with hidden voids; dying ashes.",
            ((0, 0), (190, 0), (190, 118), (0, 118)),
        ),
        BlockPlan(
            "Tail Race",
            "floodplain",
            "suspect",
            "Floodplain and wet flat along the old canal.",
            ((-60, -150), (340, -118), (345, -24), (200, -14), (-55, -30)),
        ),
        BlockPlan(
            "Hanger Wood",
            "woodland",
            "clean",
            "Mixed hardwoods on a slope; two sample plots.",
            ((205, 0), (490, 30), (475, 235), (215, 215)),
            (("P1", 290.0, 90.0, 12.62), ("P2", 400.0, 150.0, 12.62)),
        ),
        BlockPlan(
            "Walled Shrubbery",
            "garden",
            "clean",
            "Old ornamental planting, tender things on the warm wall.",
            ((10, 130), (165, 130), (165, 228), (10, 228)),
        ),
        BlockPlan(
            "Nursery Lines",
            "made_ground",
            "clean",
            "Rows of young stock and a conifer row.",
            ((-215, -15), (-15, -15), (-15, 140), (-215, 140)),
        ),
    ),
)
SALTMARROW_POINT = SitePlan(
    name="Saltmarrow Point",
    lat=44.6,
    lon=-123.9,
    elevation_m=20,
    areas=("ORE",),
    units="metric",
    protection="bs5837",
    breast_height_m=1.30,
    several_stems="largest_plus_half",
    blocks=(
        BlockPlan(
            "Point",
            "coastal",
            "clean",
            "Wind-shorn edge above the dunes.",
            ((0, 0), (160, 0), (160, 90), (0, 90)),
        ),
    ),
)


THISTLE_HOLT = SitePlan(
    name="Thistle Holt",
    lat=51.3,
    lon=-0.6,
    elevation_m=70,
    areas=("GRB",),
    units="metric",
    protection="bs5837",
    breast_height_m=1.50,
    several_stems="squares",
    region="gb",
    blocks=(
        BlockPlan(
            "Green",
            "park",
            "clean",
            "Old oaks and a lime walk round a mown green.",
            ((0, 0), (180, 0), (180, 110), (0, 110)),
        ),
        BlockPlan(
            "Sunken Lane",
            "hedge",
            "suspect",
            "Ashes and thorns along a lane between banks.",
            ((0, -60), (180, -60), (180, -8), (0, -8)),
        ),
    ),
)


def to_degrees(site: SitePlan, east: float, north: float) -> tuple[float, float]:
    """(lon, lat) of a place in metres from the origin; flat-earth, good to centimetres over a kilometre."""
    return site.lon + east / (
        M_PER_DEGREE * math.cos(math.radians(site.lat))
    ), site.lat + north / M_PER_DEGREE


def row(
    rng: Random,
    block: str,
    name: str,
    taxa: list[str],
    start: tuple[float, float],
    step: tuple[float, float],
    dbh: tuple[float, float],
    origin: str = "planted",
    stage: str = "mature",
) -> Iterator[Stand]:
    """Stems at even spacing, as planted, with a hand's breadth of error."""
    for i, taxon in enumerate(taxa):
        yield Stand(
            block,
            taxon,
            start[0] + i * step[0] + rng.gauss(0, 0.15),
            start[1] + i * step[1] + rng.gauss(0, 0.15),
            max(1.5, rng.gauss(*dbh)),
            origin,
            stage,
            row=name,
            position=i + 1,
        )


def scatter(
    rng: Random,
    block: str,
    taxa: dict[str, int],
    box: tuple[float, float, float, float],
    dbh: tuple[float, float],
    gap: float = 3.0,
    stage: str = "mature",
) -> Iterator[Stand]:
    """Wild stems that keep a distance from each other (dart throwing)."""
    taken: list[tuple[float, float]] = []
    for taxon in [t for t, n in taxa.items() for _ in range(n)]:
        for _ in range(200):
            at = rng.uniform(box[0], box[2]), rng.uniform(box[1], box[3])
            if all(math.dist(at, other) >= gap for other in taken):
                taken.append(at)
                yield Stand(
                    block, taxon, *at, max(2.0, rng.lognormvariate(math.log(dbh[0]), dbh[1])), "wild", stage
                )
                break


def bank(
    rng: Random,
    block: str,
    taxa: list[str],
    start: tuple[float, float],
    end: tuple[float, float],
    dbh: tuple[float, float],
) -> Iterator[Stand]:
    """Stems along water: strung out, not in line."""
    for i, taxon in enumerate(taxa):
        along = (i + rng.uniform(0.2, 0.8)) / len(taxa)
        yield Stand(
            block,
            taxon,
            start[0] + along * (end[0] - start[0]),
            start[1] + along * (end[1] - start[1]) + rng.gauss(0, 2.2),
            max(2.0, rng.lognormvariate(math.log(dbh[0]), dbh[1])),
            "wild",
            stems=rng.choice((1, 1, 1, 2, 3)) if taxon == "acer-negundo" else 1,
        )


def brindle_fold(rng: Random) -> list[Stand]:
    """Every plant of Brindle Fold."""
    return [
        *_mill_yard(rng),
        *_tail_race(rng),
        *_hanger_wood(rng),
        *_walled_shrubbery(rng),
        *_nursery_lines(rng),
    ]


def _mill_yard(rng: Random) -> Iterator[Stand]:
    ash = ["fraxinus-pennsylvanica"] * 9 + ["fraxinus-americana"] * 2 + ["fraxinus-pennsylvanica"] * 5
    for name, north in (("Ash avenue, north side", 64.0), ("Ash avenue, south side", 54.0)):
        for i, stand in enumerate(row(rng, "Mill Yard", name, ash, (18, north), (8, 0), (38, 5))):
            stand.story = "ash treated" if i in (2, 7) else "ash"
            if i == 12 and north > 60:
                stand.taxon, stand.story = "fraxinus-quadrangulata", "blue ash"
            yield stand
    yield from row(rng, "Mill Yard", "Gate row", ["acer-platanoides"] * 14, (12, 12), (7, 0), (31, 6))
    yield from row(rng, "Mill Yard", "Loading bank", ["quercus-palustris"] * 12, (14, 104), (9, 0), (42, 7))
    yield from row(rng, "Mill Yard", "Forecourt", ["cercis-canadensis"] * 6, (130, 26), (6, 2), (12, 3))
    yield from row(
        rng,
        "Mill Yard",
        "Chimney corner",
        ["pinus-strobus"] * 4 + ["robinia-pseudoacacia"] * 5,
        (150, 80),
        (3.6, 3.2),
        (36, 8),
    )
    for i in range(3):
        yield Stand(
            "Mill Yard", "acer-saccharum", 165 + 6 * i, 18 + rng.gauss(0, 1), rng.gauss(55, 6), "planted"
        )


def _tail_race(rng: Random) -> Iterator[Stand]:
    north_bank = [
        "acer-negundo",
        "ulmus-americana",
        "celtis-occidentalis",
        "fraxinus-pennsylvanica",
        "juglans-nigra",
        "acer-rubrum",
    ] * 9
    rng.shuffle(north_bank)
    for stand in bank(rng, "Tail Race", north_bank, (-45, -42), (325, -34), (30, 0.35)):
        stand.story = "ash" if stand.taxon.startswith("fraxinus") else ""
        yield stand
    yield from bank(
        rng,
        "Tail Race",
        ["lindera-benzoin"] * 14 + ["rhamnus-cathartica"] * 6,
        (-40, -70),
        (160, -60),
        (3.5, 0.25),
    )
    yield from scatter(
        rng,
        "Tail Race",
        {"acer-negundo": 8, "carya-cordiformis": 5, "ulmus-americana": 6, "acer-rubrum": 6},
        (-20, -110, 320, -76),
        (24, 0.4),
        6,
    )
    for i in range(4):
        yield Stand(
            "Tail Race",
            "frangula-alnus",
            180 + 11 * i,
            -70 + rng.gauss(0, 3),
            rng.gauss(4, 0.6),
            "wild",
            stems=2,
        )
    yield Stand(
        "Tail Race",
        "rhamnus-cathartica",
        0,
        0,
        0,
        "wild",
        outline=((60, -96), (92, -98), (96, -84), (64, -82)),
        story="group",
    )
    yield Stand(
        "Tail Race",
        "lindera-benzoin",
        0,
        0,
        0,
        "wild",
        outline=((210, -100), (246, -98), (244, -84), (214, -86)),
        story="group",
    )


def _hanger_wood(rng: Random) -> Iterator[Stand]:
    for plot, east, north in (("P1", 290.0, 90.0), ("P2", 400.0, 150.0)):
        mix = {
            "fagus-grandifolia": 6,
            "acer-saccharum": 6,
            "quercus-rubra": 4,
            "carya-ovata": 2,
            "tsuga-canadensis": 2,
            "acer-rubrum": 2,
        }
        for stand in scatter(
            rng, "Hanger Wood", mix, (east - 8.6, north - 8.6, east + 8.6, north + 8.6), (26, 0.45), 2.2
        ):
            stand.plot = plot
            stand.story = "beech" if stand.taxon.startswith("fagus") else ""
            yield stand
    mix = {
        "fagus-grandifolia": 14,
        "acer-saccharum": 14,
        "quercus-rubra": 14,
        "quercus-alba": 12,
        "carya-ovata": 8,
        "carya-cordiformis": 5,
        "tsuga-canadensis": 6,
        "fraxinus-americana": 8,
        "juglans-cinerea": 3,
        "acer-rubrum": 5,
    }
    for stand in scatter(rng, "Hanger Wood", mix, (225, 24, 470, 205), (32, 0.4), 7):
        if all(math.dist((stand.east, stand.north), at) > 14 for at in ((290, 90), (400, 150))):
            stand.story = (
                "beech"
                if stand.taxon.startswith("fagus")
                else "ash"
                if stand.taxon.startswith("fraxinus")
                else ""
            )
            yield stand
    yield from bank(rng, "Hanger Wood", ["rhamnus-cathartica"] * 11, (215, 12), (440, 34), (5, 0.3))


def _walled_shrubbery(rng: Random) -> Iterator[Stand]:
    yield from row(
        rng,
        "Walled Shrubbery",
        "Lawn",
        ["fagus-sylvatica", "acer-platanoides", "fagus-sylvatica", "acer-saccharum"],
        (30, 150),
        (26, 3),
        (62, 9),
    )
    yield from row(
        rng, "Walled Shrubbery", "North wall", ["thuja-occidentalis"] * 9, (22, 222), (4, 0), (14, 2)
    )
    yield from row(
        rng, "Walled Shrubbery", "Warm wall", ["cercis-canadensis"] * 3, (120, 216), (8, 0), (15, 2)
    )
    shrubs = (
        "forsythia-x-intermedia",
        "syringa-vulgaris",
        "magnolia-x-soulangeana",
        "viburnum-opulus",
        "euonymus-alatus",
        "ligustrum-vulgare",
        "hamamelis-virginiana",
        "buxus-sempervirens",
        "berberis-thunbergii",
        "camellia-japonica",
    )
    for i, taxon in enumerate(shrubs):
        at = (40 + 11 * i, 178 + 9 * (i % 3) + rng.gauss(0, 1))
        yield Stand("Walled Shrubbery", taxon, *at, rng.gauss(5, 1), "planted", stems=3)
    yield Stand(
        "Walled Shrubbery",
        "thuja-occidentalis",
        0,
        0,
        0,
        "planted",
        stage="clipped",
        outline=((60, 132), (110, 132), (110, 134), (60, 134)),
        story="group",
    )


def _nursery_lines(rng: Random) -> Iterator[Stand]:
    lines = (
        ("Line A", "quercus-rubra", 20),
        ("Line B", "acer-saccharum", 20),
        ("Line C", "quercus-alba", 16),
        ("Line D", "carya-ovata", 12),
        ("Line E", "cercis-canadensis", 12),
    )
    for i, (name, taxon, number) in enumerate(lines):
        yield from row(
            rng,
            "Nursery Lines",
            name,
            [taxon] * number,
            (-205, 8 + 16 * i),
            (8.5, 0),
            (5.5, 0.9),
            stage="young",
        )
    yield from row(
        rng,
        "Nursery Lines",
        "Conifer row",
        ["thuja-occidentalis"] * 10 + ["pinus-strobus"] * 9,
        (-205, 120),
        (9.5, 0),
        (11, 2),
        stage="young",
    )
    gums = (
        "eucalyptus-robusta",
        "eucalyptus-saligna",
        "corymbia-maculata",
    )  # in pots, with juvenile leaves that mislead
    for i in range(6):
        yield Stand(
            "Nursery Lines",
            gums[i % 3],
            -40 + 1.5 * i,
            118,
            2,
            "planted",
            stage="sapling",
            setting="glasshouse",
            row="Glass house",
            position=i + 1,
        )


def saltmarrow_point(rng: Random) -> list[Stand]:
    """Every plant of Saltmarrow Point: two of its trees are not in the flora and keep the name as entered."""
    stands = []
    for i in range(20):
        at = (12 + 6.5 * i, 60 + 12 * math.sin(i / 3) + rng.gauss(0, 1.5))
        kind = rng.choice(
            ("Picea sitchensis", "Pinus contorta", "alnus-rubra", "thuja-plicata", "tsuga-heterophylla")
        )
        taxon, name = (kind, "") if kind.islower() else ("", kind)
        stands.append(
            Stand("Point", taxon, at[0], at[1], rng.lognormvariate(math.log(34), 0.3), "wild", name=name)
        )
    stands += row(
        rng,
        "Point",
        "Lane",
        ["acer-platanoides", "robinia-pseudoacacia", "acer-negundo"] * 3 + ["acer-platanoides"],
        (20, 20),
        (11, 0),
        (24, 5),
    )
    return stands


def thistle_holt(rng: Random) -> list[Stand]:
    """Every plant of Thistle Holt, in southern England: what is native or old there."""
    limes = ["tilia-x-europaea"] * 7 + ["tilia-cordata"]
    stands = list(row(rng, "Green", "Lime walk", limes, (20, 95), (20, 0), (55, 8)))
    kinds = (
        "quercus-robur",
        "quercus-petraea",
        "fagus-sylvatica",
        "aesculus-hippocastanum",
        "betula-pendula",
    )
    for i in range(12):
        at = (18 + 28 * (i % 6) + rng.gauss(0, 3), 25 + 30 * (i // 6) + rng.gauss(0, 3))
        dbh_cm = rng.lognormvariate(math.log(58), 0.35)
        stands.append(Stand("Green", kinds[i % len(kinds)], at[0], at[1], dbh_cm, "planted"))
    for i in range(14):
        taxon = ("fraxinus-excelsior", "crataegus-monogyna", "acer-campestre", "corylus-avellana")[i % 4]
        at = (8 + 12.5 * i, -34 + 8 * math.sin(i / 2) + rng.gauss(0, 1))
        dbh_cm = rng.lognormvariate(math.log(24), 0.4)
        stands.append(Stand("Sunken Lane", taxon, at[0], at[1], dbh_cm, "wild"))
    return stands
