"""Every rule of work: it fires and does not, in its window, at home, further north and in the south. Common
practice and from memory where no source is named.
"""

from __future__ import annotations

import datetime
import unittest
from typing import Any

from jubark_core.condition.scores import defects
from jubark_core.records import words
from jubark_core.tests.work_cases import BRITAIN, FLORA, PATH, WANTS, case, fired
from jubark_core.work.before.steps import may_take_step
from jubark_core.work.facts import read_facts
from jubark_core.work.load import WITH_CAUSE, flowering_wood, read_condition, work_rules

GARDEN = [{"kind": "garden", "distance_m": 5}]
CROWD = [{"kind": "playground", "distance_m": 4, "occupancy": "constant"}]
SHOWS: dict[str, Any] = {"name_shows_now": ["bud scales"]}


def works(distance_m: float, ends: str | None = None) -> dict[str, Any]:
    return case(protection_radius_m=6.0, works=[{"works": "trench", "distance_m": distance_m, "ends": ends}])


def last_on(day: str, **more: Any) -> dict[str, Any]:
    return case(last_inspected_on=day, **more)


def after_storm(storm: str, seen: str) -> dict[str, Any]:
    return case(defects=[{"defect": "crack"}], storms_on=[storm], last_visit_on=seen)


def taped(before_cm: float, now_cm: float) -> dict[str, Any]:
    return case(diameters=[{"on": "2026-05-01", "cm": now_cm}, {"on": "2025-05-01", "cm": before_cm}])


def counted(masses: int, days_ago: int, taxon: str = "quercus-alba", limit: float = 600.0) -> dict[str, Any]:
    """A plot of a hundredth of a hectare."""
    on = datetime.date(2026, 6, 10) - datetime.timedelta(days=days_ago)
    plot = {"on": on.isoformat(), "masses": masses, "over_m2": 100.0}
    return case(taxon, egg_mass_plots=[plot], egg_masses_limit_per_ha=limit)


def spongy_in(*years: int) -> dict[str, Any]:
    found = {"agent": "spongy-moth", "probability": 0.9, "years": list(years)}
    return case("quercus-alba", diagnoses=[found])


# rule, a case that fires it, a case that does not
RULES: tuple[tuple[str, dict[str, Any], dict[str, Any]], ...] = (
    ("R01", case(risk={"imminent": True}), case(risk={"imminent": False})),
    ("R01", case(defects=[{"defect": "hanger", "over_target": True}]), case(defects=[{"defect": "hanger"}])),
    (
        "R01",
        case(defects=[{"defect": "root_plate_movement", "fresh": True}]),
        case(defects=[{"defect": "root_plate_movement"}]),
    ),
    ("R02", case(risk={"rating": "extreme"}), case(risk={"rating": "high"})),
    ("R03", case(risk={"rating": "high"}), case(risk={"rating": "moderate"})),
    ("R04", case(risk={"rating": "moderate"}), case(risk={"rating": "low"})),
    ("R05", case(risk={"base_seen": "partly"}, targets=PATH), case(risk={"base_seen": "partly"}, targets=[])),
    (
        "R06",
        case(defects=[{"defect": "dead_limb", "break_cm": 8, "over_target": True}]),
        case(defects=[{"defect": "dead_limb", "break_cm": 4, "over_target": True}]),
    ),
    (
        "R06",
        case(defects=[{"defect": "dead_limb", "break_cm": 8, "over_target": True}]),
        case(stage="veteran", defects=[{"defect": "dead_limb", "break_cm": 8, "over_target": True}]),
    ),
    ("R07", case("quercus-rubra", **WANTS), case("quercus-rubra")),
    ("R07", case("quercus", **WANTS), case("carya-ovata", **WANTS)),
    (
        "R08",
        case("ulmus-americana", causes_km={"dutch-elm-disease": 3}, **WANTS),
        case("ulmus-parvifolia", causes_km={"dutch-elm-disease": 3}, **WANTS),
    ),
    (
        "R09",
        case("betula-pendula", causes_km={"bronze-birch-borer": 3}, **WANTS),
        case("betula-pendula", **WANTS),
    ),
    ("R10", case("acer-saccharum", **WANTS), case("quercus-alba", **WANTS)),
    ("R11", case("pinus-strobus", **WANTS), case("picea-abies", **WANTS)),
    ("R12", case("prunus-serotina", **WANTS), case("malus-domestica", **WANTS)),
    (
        "R12K",
        case("prunus-serotina", diagnoses=[{"agent": "black-knot", "probability": 0.9}]),
        case("malus-domestica", diagnoses=[{"agent": "black-knot", "probability": 0.9}]),
    ),
    (
        "R13",
        case("malus-domestica", diagnoses=[{"agent": "fire-blight", "probability": 0.9}]),
        case("malus-domestica", diagnoses=[{"agent": "fire-blight", "probability": 0.3}]),
    ),
    (
        "R14",
        case("syringa-vulgaris", flowers_on="last_year", wanted=["size_pruning"]),
        case("syringa-vulgaris", flowers_on="last_year"),
    ),
    (
        "R15",
        case("callicarpa-americana", flowers_on="this_year", wanted=["size_pruning"]),
        case("callicarpa-americana", flowers_on="last_year", wanted=["size_pruning"]),
    ),
    (
        "R16",
        case(headroom=[{"over": "path", "clear_m": 2.4}]),
        case(headroom=[{"over": "path", "clear_m": 2.5}]),
    ),
    (
        "R16",
        case(headroom=[{"over": "road", "clear_m": 5.0}], region="uk"),
        case(headroom=[{"over": "road", "clear_m": 5.0}], region="us"),  # 14 ft there
    ),
    ("R17", case(wires_m=2), case(wires_m=4)),
    ("R17", case("quercus-rubra", wires_m=4, height_m=5), case("quercus-rubra", wires_m=25, height_m=5)),
    (
        "R18",
        case(planted_on="2021-04-01", defects=[{"defect": "codominant_stems"}]),
        case(planted_on="2026-04-01", defects=[{"defect": "codominant_stems"}]),
    ),
    (
        "R19",
        case(defects=[{"defect": "included_bark"}], targets=PATH),
        case(defects=[{"defect": "included_bark"}], targets=[]),
    ),
    (
        "R20",
        case(defects=[{"defect": "topped"}], targets=PATH),
        case(defects=[{"defect": "topped"}], targets=[{"kind": "path", "distance_m": 90}]),
    ),
    (
        "R21",
        case(defects=[{"defect": "cavity"}], targets=PATH),
        case(defects=[{"defect": "lean"}], targets=PATH),
    ),
    (
        "R05",
        case(climbers=[{"climber": "hedera-helix", "hides": True}], targets=PATH),
        case(climbers=[{"climber": "hedera-helix"}], targets=PATH),
    ),
    (
        "R06",
        case(defects=[{"defect": "dead_limb", "break_cm": 10, "over_target": True}], targets=GARDEN),
        case(defects=[{"defect": "dead_limb", "break_cm": 8, "over_target": True}], targets=GARDEN),
    ),
    ("R22", case(stage="veteran"), case(stage="mature")),
    ("R22", case(stage="veteran"), case(habitats=["roost", "trunk_cavity"])),
    ("R23", case(life="standing_dead", targets=[]), case(life="standing_dead", targets=PATH)),
    (
        "R24",
        case("fraxinus-americana", life="standing_dead", targets=PATH),
        case("fraxinus-americana", life="standing_dead", targets=[]),
    ),
    (
        "R25",
        case("fraxinus-americana", crown_loss_percent=20, causes_km={"emerald-ash-borer": 8}),
        case("fraxinus-americana", crown_loss_percent=20, causes_km={"emerald-ash-borer": 60}),
    ),
    (
        "R25W",
        case("fraxinus-quadrangulata", causes_km={"emerald-ash-borer": 8}),
        case("fraxinus-americana", causes_km={"emerald-ash-borer": 8}),
    ),
    (
        "R26",
        case(
            "ulmus-americana",
            crown_loss_percent=3,
            diagnoses=[{"agent": "dutch-elm-disease", "probability": 0.8}],
        ),
        case(
            "ulmus-americana",
            crown_loss_percent=30,
            diagnoses=[{"agent": "dutch-elm-disease", "probability": 0.8}],
        ),
    ),
    (
        "R27",
        case(
            "quercus-rubra", diagnoses=[{"agent": "oak-wilt", "probability": 0.99, "standing": "confirmed"}]
        ),
        case("quercus-rubra", diagnoses=[{"agent": "oak-wilt", "probability": 0.99, "standing": "probable"}]),
    ),
    (
        "R27E",
        case(
            "ulmus-americana",
            diagnoses=[{"agent": "dutch-elm-disease", "probability": 0.95, "standing": "confirmed"}],
        ),
        case("ulmus-americana", diagnoses=[{"agent": "dutch-elm-disease", "probability": 0.95}]),
    ),
    (
        "R28",
        case(
            "tsuga-canadensis",
            crown_loss_percent=20,
            diagnoses=[{"agent": "hemlock-woolly-adelgid", "probability": 0.9}],
        ),
        case(
            "tsuga-canadensis",
            crown_loss_percent=70,
            diagnoses=[{"agent": "hemlock-woolly-adelgid", "probability": 0.9}],
        ),
    ),
    (
        "R29",
        case(
            "quercus-alba",
            diagnoses=[{"agent": "spongy-moth", "probability": 0.9}],
        ),
        case("quercus-alba", diagnoses=[{"agent": "spongy-moth", "probability": 0.3}]),
    ),
    ("R29", case(egg_masses_seen_on="2025-08-20"), case(egg_masses_seen_on="2025-05-20")),
    ("R29B", counted(7, 60), counted(5, 60)),  # on 0.01 ha: 700 and 500 to the hectare
    ("R29B", counted(12, 60, limit=1200.0), counted(12, 60, limit=1201.0)),
    ("R29B", counted(7, 60), counted(7, 60, "fraxinus-americana")),  # no host of it
    ("R29B", spongy_in(2025, 2026), spongy_in(2024, 2026)),
    ("R29B", spongy_in(2024, 2025), spongy_in(2023, 2024)),
    (
        "R30",
        case(diagnoses=[{"agent": "asian-longhorned-beetle", "probability": 0.2}]),
        case(diagnoses=[{"agent": "asian-longhorned-beetle", "probability": 0.1}]),
    ),
    ("R31", case(soil_borne_about=True), case()),
    ("R32", case("ailanthus-altissima"), case("rhus-typhina")),
    ("R33", case("rhamnus-cathartica", dbh_cm=3), case("rhamnus-cathartica", dbh_cm=1)),
    (
        "R34",
        case(climbers=[{"climber": "celastrus-orbiculatus"}]),
        case(climbers=[{"climber": "vitis-riparia"}]),
    ),
    (
        "R34",
        case(climbers=[{"climber": "hedera-helix"}]),
        case(climbers=[{"climber": "hedera-helix"}], **BRITAIN),
    ),
    (
        "R35",
        case(climbers=[{"climber": "toxicodendron-radicans"}], targets=PATH),
        case(climbers=[{"climber": "parthenocissus-quinquefolia"}], targets=PATH),
    ),
    ("R35", case("toxicodendron-radicans", targets=PATH), case("toxicodendron-radicans", targets=[])),
    ("R36", case(planted_on="2025-04-01"), case(planted_on="2015-04-01")),
    ("R37", case(form="vacant", rooting_m3=8), case(form="vacant", rooting_m3=7.9)),
    ("R37", case(form="vacant", rooting_m3=30), case(form="tree", rooting_m3=30)),
    ("R38", case(defects=[{"defect": "girdling_root"}]), case(defects=[{"defect": "wound"}])),
    ("R38", case(flare="buried"), case(flare="not_seen")),
    ("R39", works(3.0), works(6.0)),
    ("R39", works(3.0, ends="2026-06-10"), works(3.0, ends="2026-06-09")),
    ("R40", case(next_inspection_on="2026-06-10"), case(next_inspection_on="2026-06-11")),
    ("R40", case(last_visit_on="2020-01-01"), case(last_visit_on="2024-01-01")),
    ("R40", last_on("2026-03-01", risk={"rating": "high"}), last_on("2026-04-01", risk={"rating": "high"})),
    ("R40", last_on("2024-11-01", targets=CROWD), last_on("2025-01-01", targets=CROWD)),
    ("R40", last_on("2025-05-01", inspection_months=12), last_on("2025-07-01", inspection_months=12)),
    ("R40", after_storm("2026-06-08", seen="2026-06-07"), after_storm("2026-06-08", seen="2026-06-08")),
    ("R40", after_storm("2026-05-11", seen="2026-05-01"), after_storm("2026-05-10", seen="2026-05-01")),
    ("R40", case(probability=0.7, **SHOWS), case(probability=0.8, **SHOWS)),
    ("R40", taped(40.0, 38.0), taped(40.0, 41.0)),
)
KNOT = [{"agent": "black-knot", "probability": 0.9}]
ADELGID = [{"agent": "hemlock-woolly-adelgid", "probability": 0.9}]
LOW = [{"over": "road", "clear_m": 3.0}]
UNION = [{"defect": "included_bark"}]
# rule, case, begins, ends in the north of the reference place
WINDOWS = (
    ("R07", "quercus-rubra", WANTS, "2026-11-01", "2027-03-31"),
    ("R11", "pinus-strobus", WANTS, "2026-11-01", "2027-03-31"),
    ("R10", "acer-rubrum", WANTS, "2026-06-15", "2026-08-31"),
    ("R09", "betula-pendula", WANTS | {"causes_km": {"bronze-birch-borer": 3}}, "2026-08-25", "2026-09-30"),
    ("R12K", "prunus-serotina", {"diagnoses": KNOT}, "2026-12-01", "2027-03-31"),
    ("R28", "tsuga-canadensis", {"diagnoses": ADELGID, "crown_loss_percent": 20}, "2026-04-01", "2026-06-30"),
    ("R37", "acer-rubrum", {"form": "vacant", "rooting_m3": 20}, "2026-09-01", "2026-11-30"),
    # what cuts live wood keeps the season of its kind; a kind without one leaves the rule as it is
    ("R16", "quercus-rubra", {"headroom": LOW}, "2026-11-01", "2027-03-31"),
    ("R18", "pinus-strobus", {"planted_on": "2021-04-01", "defects": UNION}, "2026-11-01", "2027-03-31"),
    ("R19", "prunus-serotina", {"defects": UNION, "targets": PATH}, "2026-06-01", "2026-08-31"),
    (
        "R20",
        "tilia-cordata",
        {"defects": [{"defect": "topped"}], "targets": PATH},
        "2026-11-01",
        "2027-03-31",
    ),
)


# Every window of the year at the reference place; from memory of the sources the rules name.
YEAR: dict[str, tuple[str, ...]] = {
    "R07": ("11-01..03-31",),
    "R08": ("10-01..03-31",),
    "R09": ("10-15..02-15", "08-25..09-30"),
    "R10": ("06-15..08-31", "11-01..01-31"),
    "R11": ("11-01..03-31",),
    "R12": ("06-01..08-31",),
    "R12K": ("12-01..03-31",),
    "R13": ("12-01..02-28",),
    "R15": ("02-15..04-05",),
    "R18": ("11-01..03-31",),
    "R19": ("11-01..03-31",),
    "R20": ("11-01..03-31",),
    "R22": ("09-01..02-28",),
    "R24": ("11-01..03-31",),
    "R25": ("05-20..06-30",),
    "R25W": ("06-01..08-31",),
    "R27": ("10-01..03-31",),
    "R28": ("04-01..06-30", "09-01..10-31"),
    "R29": ("08-01..03-31",),
    "R29B": ("05-12..05-25",),
    "R32": ("07-01..09-30",),
    "R33": ("08-15..01-31",),
    "R34": ("11-01..03-31",),
    "R35": ("05-01..09-30",),
    "R36": ("04-01..10-31",),
    "R37": ("09-01..11-30", "03-01..04-30"),
    "R38": ("10-01..03-31",),
}
SOUTH = {"lat": -40.5, "lon": 145.0}


def spans(given_: dict[str, Any], rule: str) -> list[tuple[datetime.date, datetime.date]]:
    """The windows of a rule in the year, in the order of its data."""
    day = datetime.date.fromisoformat
    found = fired(given_)[rule]["season"]["spans"]
    return [(day(s["begins"]), day(s["ends"])) for s in found if s["kind"] == "done"]


class EachRule(unittest.TestCase):
    def test_it_fires_and_it_does_not(self) -> None:
        for rule, yes, no in RULES:
            with self.subTest(rule, case=str(yes)[:90]):
                self.assertIn(rule, fired(yes))
                self.assertNotIn(rule, fired(no))
        proposing = {rule.id for rule in work_rules().rules.values() if not rule.by_hand}
        self.assertEqual({rule for rule, _, _ in RULES}, proposing)

    def test_every_proposal_says_its_rule_its_facts_and_its_source(self) -> None:
        for rule, yes, _ in RULES:
            proposal = fired(yes)[rule]
            with self.subTest(rule):
                self.assertTrue(proposal["why"] and proposal["source"] and proposal["do"])
                self.assertRegex(proposal["facts"], "^[0-9a-f]{12}$")
                self.assertEqual(
                    proposal["blocked_by"], [c["check"] for c in proposal["checks"] if c["open"]]
                )

    def test_the_next_window_at_home(self) -> None:
        for rule, taxon, more, begins, ends in WINDOWS:
            with self.subTest(rule):
                home = fired(case(taxon, **more))[rule]["season"]
                self.assertEqual((home["begins"], home["ends"]), (begins, ends))

    def test_every_window_at_home_and_in_the_other_half_of_the_year_in_the_south(self) -> None:
        self.assertEqual(set(YEAR), {r.id for r in work_rules().rules.values() if r.windows})
        for rule, windows in YEAR.items():
            firing = next(yes for id, yes, _ in RULES if id == rule)
            home, south = (spans(firing | place, rule) for place in ({}, SOUTH))
            with self.subTest(rule):
                self.assertEqual(sorted(f"{a:%m-%d}..{b:%m-%d}" for a, b in home), sorted(windows))
                for (a, b), (sa, sb) in zip(home, south, strict=True):
                    middle, turned = a + (b - a) / 2, sa + (sb - sa) / 2
                    self.assertAlmostEqual(abs((turned - middle).days) % 365, 182, delta=45)

    def test_whatever_cuts_live_wood_of_an_oak_waits_for_its_season_through_every_step(self) -> None:
        oak = case("quercus-rubra", headroom=LOW)
        self.assertEqual(fired(oak)["R16"]["season"]["never_from"], "2026-04-01")
        self.assertTrue(fired(oak)["R16"]["seals"])
        for step in ("planned", "started", "completed"):
            told = may_take_step({"case": oak, "rule": "R16", "step": step, "on": "2026-06-10"}, FLORA)
            self.assertTrue(any("Not in this season" in text for text in told["refusals"]), step)
        for other in (case("tilia-cordata", headroom=LOW), case("quercus-rubra", headroom=LOW) | BRITAIN):
            self.assertIsNone(fired(other)["R16"]["season"])
            told = may_take_step({"case": other, "rule": "R16", "step": "planned", "on": "2026-06-10"}, FLORA)
            self.assertFalse(any("season" in text for text in told["refusals"]))

    def test_a_danger_is_taken_away_in_any_season_and_cuts_of_oak_and_elm_are_sealed(self) -> None:
        danger: dict[str, Any] = {"risk": {"imminent": True, "rating": "extreme"}}
        about = {"causes_km": {"dutch-elm-disease": 3}}
        for taxon, more, said in (
            ("quercus-rubra", {}, "Seal wounds and stumps within 15 minutes"),
            ("ulmus-americana", about, "Seal cuts at once"),
            ("ulmus-americana", {}, ""),
            ("quercus-rubra", BRITAIN, ""),
            ("tilia-cordata", {}, ""),
        ):
            with self.subTest(taxon, **more):
                found = fired(case(taxon, **danger) | more)
                for rule in ("R01", "R02"):
                    self.assertIsNone(found[rule]["season"])
                    sealed = [c for c in found[rule]["cautions"] if c.startswith("Where live wood is cut:")]
                    self.assertEqual(len(sealed), bool(said))
                    self.assertIn(said, " ".join(sealed))

    def test_figures_are_worded_in_the_units_of_the_site(self) -> None:
        self.assertEqual(
            fired(case(headroom=LOW))["R16"]["why"], ["clearance short: 3.0 m at the road, 4.3 m asked"]
        )
        customary = fired(case(headroom=LOW, units="us_customary"))["R16"]["why"]
        self.assertEqual(customary, ["clearance short: 9.8 ft at the road, 14.1 ft asked"])

    def test_the_words_of_the_rules_are_words_of_the_records(self) -> None:
        """A rule that asks for a word nobody can record never fires."""
        known = {
            "defects": set(defects()),
            "life": set(words.LIFE_STATES),
            "stage": set(words.STAGES),
            "habitats": set(words.HABITATS),
            "rating": set(words.RATINGS),
            "base_seen": set(words.BASE_VISIBLE),
            "flare": set(words.FLARE),
            "form": set(words.PLANT_FORMS),
            "genus": set(FLORA.taxa),
            "taxon": set(FLORA.taxa),
        }
        facts = set(read_facts(case(), FLORA).of)
        for rule in work_rules().rules.values():
            for condition in (c for group in rule.when for c in group):
                with self.subTest(rule.id, condition=condition.in_words()):
                    if condition.fact not in (*WITH_CAUSE, "area_has"):
                        self.assertIn(condition.fact, facts)
                    if condition.fact in known and condition.op != "known":
                        self.assertEqual(set(condition.value.split(",")) - known[condition.fact], set())

    def test_after_bloom_by_the_flora(self) -> None:
        season = fired(case("syringa-vulgaris", flowers_on="last_year", wanted=["size_pruning"]))["R14"][
            "season"
        ]
        first, last = (datetime.date.fromisoformat(season[key]) for key in ("begins", "ends"))
        self.assertIn((last - first).days, (27, 28))  # four weeks, to the day by rounding
        self.assertIn(first.month, (5, 6))

    def test_shrubs_of_last_year_s_wood_are_known_by_the_table(self) -> None:
        for taxon in flowering_wood():
            self.assertIn(taxon, FLORA.taxa)
        wants = {"wanted": ["size_pruning"]}
        self.assertEqual(set(fired(case("forsythia-x-intermedia", form="shrub", **wants))), {"R14"})
        self.assertEqual(set(fired(case("callicarpa-americana", form="shrub", **wants))), {"R15"})
        self.assertEqual(fired(case("acer-saccharum", **wants)), {})

    def test_a_name_that_is_no_better_than_a_guess_fires_no_rule_of_a_genus(self) -> None:
        self.assertNotIn("R07", fired(case("quercus-rubra", probability=0.4, **WANTS)))

    def test_the_data_names_no_ingredient_and_calls_nothing_safe(self) -> None:
        for rule in work_rules().rules.values():
            for text in (rule.do, rule.note, *rule.cautions):
                self.assertNotRegex(
                    text.lower(), r"emamectin|imidacloprid|glyphosate|triclopyr|is safe|safe to"
                )

    def test_conditions_that_are_not_understood_are_refused(self) -> None:
        for text in ("genus equals quercus", "agent flu at_least 0.5", "wanted", "near oak-wilt"):
            with self.subTest(text), self.assertRaises(ValueError):
                read_condition(text)
