"""The calendar: dates of many places against dates from memory of long national records (check values, ± 10
days), Hopkins' worked examples (1918), and what must hold at every place: order, and the direction in which
windows move.
"""

from __future__ import annotations

import ast
import datetime
import itertools
import unittest
from dataclasses import replace
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.door import run
from jubark_core.errors import InputError
from jubark_core.flora.load import shipped_flora
from jubark_core.flora.vector_season import in_vector_season
from jubark_core.flora.views import known_days
from jubark_core.season.calendars import calendars, carrier, region_of, spring_shift_days
from jubark_core.season.days import after, date_on_or_after, day_of, day_of_year, month_day, within
from jubark_core.season.place import Place
from jubark_core.season.season_summary import season_summary
from jubark_core.season.showing import event_days, events_at, visible
from jubark_core.season.windows import Window, chance_within, dates, read_window, window_here
from jubark_core.signs.load import health
from jubark_core.species.calendar import organ_calendar
from jubark_core.tests.profiles import examples
from jubark_core.work.before.area import area_rules, roosts_open_on
from jubark_core.work.facts import read_facts
from jubark_core.work.load import work_rules
from jubark_core.work.seasons import is_never, season_of, windows_until

CORE = Path(__file__).parents[1]
FLORA = shipped_flora()
FOLD = Place(40.5, -79.3, 310)
LONDON, EDINBURGH = Place(51.5, -0.5, 60), Place(55.95, -3.2, 60)
PITTSBURGH, ATLANTA, MINNEAPOLIS = Place(40.44, -80.0, 300), Place(33.75, -84.4, 320), Place(45.0, -93.3, 260)
PORTLAND, OAKLAND, LOS_ANGELES = Place(45.5, -122.7, 50), Place(37.8, -122.3, 50), Place(34.0, -118.3, 80)
MELBOURNE, SYDNEY = Place(-37.8, 145.0, 50), Place(-33.9, 151.2, 30)
NEAR_DAYS = 10

# Mean dates from memory of long national records of phenology. leaf: first leaves; bare: the last have
# fallen.
KNOWN = (
    ("corylus-avellana", LONDON, "flower", "02-03"),
    ("aesculus-hippocastanum", LONDON, "bud_burst", "03-27"),
    ("betula-pendula", LONDON, "leaf", "04-08"),
    ("sorbus-aucuparia", LONDON, "leaf", "04-08"),
    ("fraxinus-excelsior", LONDON, "leaf", "04-28"),
    ("fraxinus-excelsior", LONDON, "leaf_out", "05-15"),
    ("fraxinus-excelsior", LONDON, "bare", "11-06"),
    ("quercus-robur", LONDON, "bud_burst", "04-17"),
    ("quercus-robur", LONDON, "leaf", "04-24"),
    ("quercus-robur", LONDON, "bare", "11-26"),
    ("crataegus-monogyna", LONDON, "flower", "05-12"),
    ("acer-rubrum", PITTSBURGH, "flower", "04-01"),
    ("cornus-florida", PITTSBURGH, "flower", "05-05"),
    ("liriodendron-tulipifera", PITTSBURGH, "flower", "05-28"),
    ("quercus-rubra", PITTSBURGH, "leaf", "05-02"),
    ("acer-saccharum", PITTSBURGH, "colour", "10-15"),
    ("cornus-florida", ATLANTA, "flower", "04-05"),
    ("acer-saccharum", MINNEAPOLIS, "leaf", "05-08"),
    ("quercus-robur", MELBOURNE, "leaf", "10-01"),
    ("quercus-robur", MELBOURNE, "bare", "06-12"),
)
# Taxa the flora lacks, by their phase of the table: number, place, date.
PHASES = (
    ("elder in flower", 8, LONDON, "06-01"),
    ("blackthorn in flower", 2, LONDON, "03-25"),
    ("bigleaf maple in flower", 4, PORTLAND, "04-08"),
)
GRID = [
    *(Place(lat, lon, m) for lat in (26, 34, 41, 48, 55) for lon, m in ((-104, 1500), (-90, 200), (-72, 20))),
    *(Place(lat, -121, m) for lat in (31, 36, 41, 46, 52, 59) for m in (0, 900)),
    *(Place(lat, lon, m) for lat in (43, 48, 53, 58, 64) for lon, m in ((-6, 0), (10, 500), (28, 150))),
    *(Place(lat, lon, m) for lat in (-27, -33, -38, -43) for lon, m in ((138, 50), (147, 900), (151, 10))),
    *(
        Place(lat, lon, 100)
        for lat, lon in (
            (36, 139),
            (61, -150),
            (47, -110),
            (35, 5),
            (-44, 171),
            (-33, 18),
            (66, -100),
            (18, -99),
        )
    ),
]


def known_date(taxon: str, place: Place, event: str) -> float:
    days = event_days(FLORA.taxa[taxon], place)
    match event:
        case "leaf":  # between bud burst and full leaf
            return (days["bud_burst"] + after(days["bud_burst"], days["leaf_out"]) / 2 - 1) % 365 + 1
        case "flower":
            return days["flower_from"] + after(days["flower_from"], days["flower_to"]) / 4
        case "bare":
            return days["fall"]
        case "colour":  # the height of it, a week before most leaves are down
            return days["fall"] - 7
    return days[event]


def apart(one: float, other: float) -> float:
    return min(after(one, other), after(other, one))


def windows() -> list[tuple[str, Window, str]]:
    """Every window of causes, of what is normal and of rules: what it is of, and its sense."""
    found: list[tuple[str, Window, str]] = []
    for cause in health().causes.values():
        found += [(f"{cause.id} season", w, "forbidden") for w in (cause.season,) if w]
        found += [(f"{cause.id}: {a.do}", a.window, "permitted") for a in cause.response if a.window]
        found += [
            (f"{cause.id} {s.sign}", s.window, "shows")
            for several in cause.signs.values()
            for s in several
            if s.window
        ]
    found += [(normal.id, normal.window, "shows") for normal in health().normals]
    for rule in work_rules().rules.values():
        found += [(rule.id, w, "permitted") for w in rule.windows]
        found += [(rule.id, w, "forbidden") for w in (rule.never, rule.caution_window) if w]
    return found


class Dates(unittest.TestCase):
    def test_the_dates_of_the_records(self) -> None:
        for taxon, place, event, date in KNOWN:
            with self.subTest(taxon, event=event):
                found = known_date(taxon, place, event)
                self.assertLessEqual(apart(found, day_of(date)), NEAR_DAYS, month_day(found))
        for name, phase, place, date in PHASES:
            with self.subTest(name):
                first, last = region_of(place)[1].phases[phase - 1 : phase + 1]
                self.assertLessEqual(first - NEAR_DAYS, day_of(date))
                self.assertGreaterEqual(last + NEAR_DAYS, day_of(date))

    def test_two_degrees_north_in_britain_are_four_to_six_days(self) -> None:
        for taxon in ("quercus-robur", "betula-pendula", "crataegus-monogyna"):
            south, north = (event_days(FLORA.taxa[taxon], Place(lat, -2, 60)) for lat in (52, 54))
            for event in ("bud_burst", "leaf_out", "flower_from"):
                self.assertTrue(4 <= after(south[event], north[event]) <= 6, (taxon, event))

    def test_hopkins_worked_example_holds_in_eastern_north_america_alone(self) -> None:
        # Hopkins (1918): two degrees north, five east and 400 ft up are 8 + 4 + 4 days
        self.assertAlmostEqual(spring_shift_days(Place(42.5, -74.3, 310 + 121.92)), 16, places=2)
        here, north = (event_days(FLORA.taxa["acer-saccharum"], p) for p in (FOLD, Place(43.5, -79.3, 310)))
        self.assertAlmostEqual(north["bud_burst"] - here["bud_burst"], 12)
        self.assertAlmostEqual(north["fall"] - here["fall"], -12)
        # no longitude west of 105 degrees; Europe and Australia by their own smaller steps
        self.assertAlmostEqual(spring_shift_days(Place(47.5, -117.7, 50)), 8)
        self.assertAlmostEqual(spring_shift_days(Place(53.5, 4.5, 160)), 2 * 2.5 + 5 * 0.4 + 3)
        self.assertAlmostEqual(spring_shift_days(Place(-39.8, 145, 150)), 2 * 2 + 3)

    def test_at_its_reference_a_taxon_keeps_its_dates_and_they_are_its_own(self) -> None:
        (bloom,) = (e for e in events_at(FLORA.taxa["cercis-canadensis"], FOLD) if e.event == "flower")
        self.assertEqual((bloom.first, bloom.origin, bloom.error_days), (day_of("04-15"), "own", 10))
        for taxon in FLORA.leaves:
            for anchor, own in FLORA.taxa[taxon]["phenology_at"].items():
                days = event_days(FLORA.taxa[taxon], calendars().anchors[anchor].at)
                self.assertEqual(days["bud_burst"], own["bud_burst"], (taxon, anchor))

    def test_a_carried_date_says_so_with_its_error(self) -> None:
        told = {e.event: e for e in events_at(FLORA.taxa["acer-rubrum"], LONDON)}
        self.assertEqual((told["leaf_out"].origin, told["leaf_out"].error_days), ("carried", 15))
        self.assertEqual(told["flower"].error_days, 25)  # before the third phase
        rough = list(events_at(FLORA.taxa["acer-rubrum"], Place(35.7, 139.7, 40)))
        self.assertTrue(all(e.error_days >= 30 for e in rough))
        self.assertTrue(season_summary(Place(35.7, 139.7, 40), False, False)["rough"])
        self.assertIn("meet", season_summary(Place(31.0, -116.0, 20), False, False)["note"])

    def test_years_are_circles_and_leap_days_cost_nothing(self) -> None:
        self.assertEqual(day_of_year(datetime.date(2028, 2, 29)), 59)
        self.assertEqual(day_of_year(datetime.date(2028, 12, 31)), 365)
        for on in (datetime.date(2027, 11, 20), datetime.date(2028, 2, 29), datetime.date(2028, 3, 1)):
            for date in ("01-01", "03-01", "12-31"):
                found = date_on_or_after(on, day_of(date))
                self.assertEqual((f"{found:%m-%d}", 0 <= (found - on).days <= 366), (date, True))
        winter = read_window("11-01..03-31", "law")
        for year in (2027, 2028, 2029):
            told = dates(winter, LONDON, datetime.date(year, 1, 15))
            self.assertEqual(told[:2], (datetime.date(year - 1, 11, 1), datetime.date(year, 3, 31)))

    @examples(200)
    @given(
        st.integers(1, 365),
        st.integers(1, 365),
        st.sampled_from(GRID),
        st.sampled_from(["PIT", "LON", "MEL"]),
    )
    def test_order_is_kept_and_the_way_back_ends_where_it_began(
        self, one: int, two: int, place: Place, written: str
    ) -> None:
        carry, back = carrier(written, place), carrier(place, calendars().anchors[written].at)
        self.assertAlmostEqual(apart(back(carry(one)), one), 0, places=6)
        if one != two:
            third = (one + after(one, two) / 2 - 1) % 365 + 1
            a, b, c = carry(one), carry(third), carry(two)
            self.assertLess(after(a, b), after(a, c))


class Everywhere(unittest.TestCase):
    def test_the_grid_covers_every_region(self) -> None:
        self.assertGreaterEqual(len(GRID), 60)
        self.assertGreaterEqual(len({region_of(place)[0].id for place in GRID}), 10)
        self.assertEqual({region_of(place)[1].id for place in GRID}, set(calendars().anchors))

    def test_events_of_every_taxon_keep_their_order_at_every_place(self) -> None:
        for taxon, place in itertools.product(FLORA.leaves, GRID):
            node = FLORA.taxa[taxon]
            found = list(events_at(node, place))
            days = [day for e in found for day in dict.fromkeys((e.first, e.last))]
            written = node["phenology_at"].get(region_of(place)[1].id) or node["phenology"]
            first = [d for v in written.values() for d in (dict.fromkeys(v) if isinstance(v, list) else [v])]
            by_day = sorted(range(len(first)), key=lambda i: after(first[0], first[i]))
            turned = [after(days[0], days[i]) for i in by_day]
            self.assertEqual(turned, sorted(turned), (taxon, place))

    def test_permitted_windows_never_grow_forbidden_ones_never_shrink_and_none_turns_inside_out(self) -> None:
        for (name, window, sense), place in itertools.product(windows(), GRID):
            if not window.dates:
                continue
            here = window_here(Window(window.dates, None, window.kind), place, sense)
            anchor = region_of(place)[1].id
            first, last = dict(window.dates).get(anchor) or window.dates[0][1]
            length, printed = after(here.first, here.last), after(first, last)
            with self.subTest(name, place=place):
                if sense == "permitted":
                    self.assertLessEqual(length, printed + 1e-6)
                elif sense == "forbidden":
                    self.assertGreaterEqual(length, printed - 1e-6)
                # the circle outside the window carries over as well: no window takes its place
                carry = carrier(anchor if anchor in dict(window.dates) else window.dates[0][0], place)
                if printed < 364:
                    middle = carry((first + printed / 2 - 1) % 365 + 1)
                    self.assertGreaterEqual(within(middle, here.first, here.last, 1), 0.5)

    def test_a_window_that_all_but_vanishes_asks_a_person(self) -> None:
        winter = read_window("12-01..02-28")
        self.assertFalse(window_here(winter, LONDON, "permitted").rough)
        self.assertTrue(window_here(winter, LOS_ANGELES, "permitted").rough)

    def test_no_rule_with_a_season_is_without_one_anywhere(self) -> None:
        """An empty season would read as any day: what the forbidden one takes away may not leave nothing."""
        rules = [rule for rule in work_rules().rules.values() if rule.windows]
        begins, ends = datetime.date(2026, 11, 20), datetime.date(2027, 11, 19)
        for rule, place in itertools.product(rules, GRID):
            at = {"lat": place.lat, "lon": place.lon, "elevation_m": place.elevation_m}
            facts = read_facts({"on": "2026-11-20", "host": [], "targets": [], **at}, FLORA)
            season = season_of(rule, facts, begins, FLORA)
            spans = windows_until(rule, facts, begins, ends, FLORA)
            with self.subTest(rule.id, place=place):
                self.assertIsNotNone(season)
                self.assertTrue(spans)
                if not season["rough"]:
                    self.assertFalse(is_never(rule, rule.acts, facts, max(spans[0][0], begins), FLORA))
        both = replace(rules[0], windows=(read_window("05-01..06-30"),), never=read_window("04-01..07-31"))
        facts = read_facts({"on": "2026-11-20", "host": [], "targets": [], "lat": 40.5, "lon": -79.3}, FLORA)
        self.assertTrue(season_of(both, facts, begins, FLORA)["rough"], "nothing is left: a person is asked")
        self.assertTrue(windows_until(both, facts, begins, ends, FLORA))

    def test_law_never_moves_and_a_guide_neither(self) -> None:
        for kind, place in itertools.product(("law", "guide"), GRID):
            here = window_here(read_window("04-01..08-15", kind), place, "forbidden")
            self.assertEqual((here.first, here.last, here.origin), (day_of("04-01"), day_of("08-15"), kind))

    def test_roosts_are_open_by_the_areas_own_dates(self) -> None:
        areas = area_rules()
        long_island, albany = Place(40.8, -73.1, 20), Place(42.65, -73.75, 60)
        for area, place, first, last in (
            ("PEN", FOLD, "11-15", "03-31"),
            ("PEN", Place(41.9, -75.0, 700), "11-15", "03-31"),
            ("NWY", albany, "11-01", "03-31"),
            ("NWY", long_island, "12-01", "02-28"),
            ("NWY", Place(), "12-01", "02-28"),
        ):
            for date, open_ in ((first, True), (last, True)):
                on = datetime.date.fromisoformat(f"2027-{date}")
                day = datetime.timedelta(days=1 if date == last else -1)
                with self.subTest(area, place=place, on=on):
                    self.assertEqual(roosts_open_on(areas[area], place, on), open_)
                    self.assertFalse(roosts_open_on(areas[area], place, on + day))
        for area in ("GRB", "VIC", "ORE", "default"):
            self.assertFalse(roosts_open_on(areas[area], LONDON, datetime.date(2027, 1, 15)), area)

    def test_wounds_are_withheld_in_the_beetle_season_of_the_place(self) -> None:
        for areas, place, date, closed in (
            (("PEN",), FOLD, "06-15", True),
            (("PEN",), FOLD, "01-15", False),
            (("TEX",), Place(30.3, -97.7, 150), "02-15", True),  # the area's own dates
            (("GEO",), ATLANTA, "03-05", True),  # spring is a month earlier there
            (("VIC",), MELBOURNE, "01-15", True),
            (("VIC",), MELBOURNE, "07-10", False),
        ):
            on = datetime.date.fromisoformat(f"2027-{date}")
            with self.subTest(areas, date=date):
                self.assertEqual(in_vector_season(FLORA, areas, place, on), closed)


class Normal(unittest.TestCase):
    """What is normal, by the events of the tree itself (health-faults A3 to A7)."""

    def now(self, normal: str, taxon: str, place: Place, date: str) -> float:
        window = next(n.window for n in health().normals if n.id == normal)
        return chance_within(window, place, day_of(date), "shows", known_days(FLORA, taxon, place))

    def test_what_is_normal_where_and_when(self) -> None:
        for normal, taxon, place, date, holds in (
            ("leafless-broadleaves", "quercus-robur", LONDON, "04-25", True),
            ("leafless-broadleaves", "quercus-robur", LONDON, "05-20", False),
            ("leafless-broadleaves", "quercus-robur", LONDON, "06-05", False),
            ("leafless-in-winter", "larix-decidua", LONDON, "03-25", True),
            ("leafless-in-winter", "larix-decidua", LONDON, "05-10", False),
            ("leafless-in-winter", "larix-decidua", LONDON, "09-01", False),
            ("held-leaves", "fagus-sylvatica", LONDON, "04-20", True),
            ("held-leaves", "fagus-sylvatica", LONDON, "06-10", False),
            ("autumn-colour", "quercus-robur", LONDON, "08-10", False),
            ("autumn-colour", "quercus-robur", LONDON, "11-10", True),
            ("late-leafers", "fraxinus-excelsior", LONDON, "05-08", True),
            ("late-leafers", "fraxinus-excelsior", LONDON, "06-05", False),
            ("leafless-broadleaves", "liquidambar-styraciflua", LOS_ANGELES, "12-15", True),
            ("leafless-broadleaves", "quercus-lobata", LOS_ANGELES, "03-10", True),
            ("leafless-broadleaves", "quercus-robur", MELBOURNE, "07-15", True),
            ("leafless-broadleaves", "quercus-robur", MELBOURNE, "01-15", False),
            ("leafless-broadleaves", "quercus-rubra", FOLD, "05-05", True),
            ("leafless-broadleaves", "quercus-rubra", FOLD, "06-05", False),
        ):
            with self.subTest(normal, taxon=taxon, date=date):
                self.assertEqual(self.now(normal, taxon, place, date) >= 0.5, holds)


class Work(unittest.TestCase):
    """Windows of treatment outside Pennsylvania (health-faults C; common practice)."""

    def test_windows_of_the_causes(self) -> None:
        for cause, place, within_ in (
            ("browntail-moth", LONDON, "10-15..03-31"),
            ("spongy-moth", LONDON, "05-01..05-20"),
            ("elm-leaf-beetle", LONDON, "06-01..06-30"),
            ("viburnum-leaf-beetle", LONDON, "04-15..05-31"),
            ("diplodia-tip-blight", LONDON, "03-20..05-31"),
            ("fire-blight", LOS_ANGELES, "12-01..01-31"),
            ("deer-and-rodents", LONDON, "08-01..09-30"),
        ):
            first, last = (day_of(text) for text in within_.split(".."))
            found = [
                window_here(a.window, place, "permitted") for a in health().causes[cause].response if a.window
            ]
            with self.subTest(cause):
                self.assertTrue(
                    any(
                        after(first, here.first) + after(here.first, here.last) <= after(first, last) + 1
                        for here in found
                    ),
                    [(month_day(h.first), month_day(h.last)) for h in found],
                )

    def test_no_cut_of_an_oak_in_any_northern_flight_of_its_beetles(self) -> None:
        oak = work_rules().rules["R07"]
        for place in (FOLD, ATLANTA, MINNEAPOLIS):
            closed = window_here(oak.never, place, "forbidden")
            for window in oak.windows:
                here = window_here(window, place, "permitted")
                self.assertLess(within(day_of("06-01"), here.first, here.last, 1), 0.5)
            self.assertGreater(within(day_of("06-01"), closed.first, closed.last, 1), 0.5)


class Showing(unittest.TestCase):
    def test_a_window_over_new_year(self) -> None:
        self.assertEqual(within(5, 330, 60, 10), 1.0)
        self.assertEqual(within(180, 330, 60, 10), 0.0)
        self.assertAlmostEqual(within(330, 330, 60, 10), 0.5)

    def test_leaf_scars_show_in_winter_and_hemlock_needles_always(self) -> None:
        january = 20
        for taxon, kind, shows in (
            ("acer-rubrum", "leaf_fall", True),
            ("acer-rubrum", "leaf_on", False),
            ("tsuga-canadensis", "leaf_on", True),
        ):
            days = event_days(FLORA.taxa[taxon], FOLD)
            found = visible(kind, days, january, FLORA.evergreen[taxon])
            self.assertEqual(found > 0.5, shows, (taxon, kind))

    def test_the_ring_shows_bark_always_and_says_when_leaves_open(self) -> None:
        for place, on, opens in (
            (FOLD, datetime.date(2026, 11, 20), r"^2027-0[45]-"),
            (MELBOURNE, datetime.date(2026, 6, 20), r"^2026-(08|09|10)-"),
        ):
            rows = {r["organ"]: r for r in organ_calendar(FLORA, place, on, {"acer-rubrum": 3})}
            self.assertEqual(rows["bark"]["now"], 1.0)
            self.assertLess(rows["leaf"]["now"], 0.5)
            self.assertRegex(rows["leaf"]["opens"], opens)
            self.assertEqual(len(rows["leaf"]["year"]), 24)


class Operation(unittest.TestCase):
    def ask(self, **given: object) -> dict[str, dict[str, object]]:
        place = {"lat": 51.5, "lon": -0.5, "elevation_m": 60}
        told = run("calendar", {"place": place, **given}, FLORA)
        self.assertEqual((told["region"], told["rough"]), ("LON", False))
        return {e["event"]: e for e in told["events"]}

    def test_a_taxon_with_own_dates_and_one_that_is_carried(self) -> None:
        own = self.ask(taxon="quercus-robur", on="2026-11-20")
        self.assertEqual((own["bud_burst"]["from"], own["bud_burst"]["origin"]), ("04-17", "own"))
        self.assertEqual(own["bud_burst"]["next_from"], "2027-04-17")
        self.assertEqual(self.ask(taxon="quercus-rubra")["leaf_out"]["origin"], "carried")

    def test_a_record_of_warmth_goes_before_the_calendar(self) -> None:
        lows, highs = [0.0] * 59 + [8.0] * 60, [8.0] * 59 + [20.0] * 60
        warm = self.ask(taxon="quercus-robur", temperatures={"min_c": lows, "max_c": highs})
        self.assertEqual((warm["bud_burst"]["origin"], warm["fall"]["origin"]), ("warmth", "own"))
        self.assertLess(warm["bud_burst"]["from"], "04-17")

    def test_a_cause_and_a_rule_with_what_the_law_of_the_area_fixes(self) -> None:
        self.assertEqual(self.ask(cause="box-tree-moth")["season"]["from"], "03-15")
        rule = self.ask(rule="R06", areas=["PEN"])
        self.assertEqual(
            (rule["roosts_open"]["from"], rule["roosts_open"]["to"], rule["roosts_open"]["origin"]),
            ("11-15", "03-31", "law"),
        )
        self.assertEqual(rule["nesting"]["origin"], "guide")
        bloom = self.ask(rule="R14", taxon="syringa-vulgaris")["window"]
        self.assertEqual((bloom["from"], bloom["to"]), ("05-25", "06-22"))

    def test_nothing_else_is_answered(self) -> None:
        for asked in (
            {},
            {"taxon": "nemo"},
            {"cause": "nemo"},
            {"rule": "R99"},
            {"cause": "a", "rule": "b"},
            {"rule": "R06", "areas": ["XXX"]},
        ):
            with self.subTest(asked), self.assertRaises(InputError):
                self.ask(**asked)


class Notation(unittest.TestCase):
    def test_several_anchors_and_the_events_of_the_tree(self) -> None:
        window = read_window("fall-14..bud_burst+21 10-25..04-30 LON:11-10..04-20")
        self.assertEqual(window.events, (("fall", -14), ("bud_burst", 21)))
        self.assertEqual(dict(window.dates)["LON"], (day_of("11-10"), day_of("04-20")))
        for wrong in ("", "always", "02-30..03-01", "XYZ:01-01..02-01", "01-01..", "Fall..leaf_out"):
            with self.subTest(wrong), self.assertRaises(ValueError):
                read_window(wrong)

    def test_nobody_outside_the_room_shifts_a_date(self) -> None:
        private = {"carrier", "spring_shift_days", "region_of", "_local", "_Turn", "Carrier"}
        shifting = {
            str(file.relative_to(CORE))
            for file in CORE.rglob("*.py")
            for node in ast.walk(ast.parse(file.read_text(encoding="utf-8")))
            if isinstance(node, ast.ImportFrom)
            and node.module == "jubark_core.season.calendars"
            and private & {name.name for name in node.names}
        }
        outside = {name for name in shifting if not name.startswith(("season/", "tests/"))}
        self.assertEqual(outside, set())
