"""Until when a judgement holds: judged at any day before, with the same inputs, it reads the same."""

from __future__ import annotations

import datetime
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jubark_core.tests.profiles import examples
from jubark_core.tests.test_rules_of_work import RULES
from jubark_core.tests.work_cases import CHECK_OF, CREWS, EVERY_ACT, FLORA, PEOPLE, told
from jubark_core.work.before.steps import may_take_step
from jubark_core.work.propose import propose

EXAMPLES = examples(60)
DAYS = st.dates(datetime.date(2026, 1, 1), datetime.date(2028, 3, 1))
SOONER = ("2025-12-20", "2026-02-28", "2026-06-09", "2026-10-20", "2027-01-15")
PLACES = (
    {"lat": 40.5, "lon": -79.3, "elevation_m": 310, "areas": ["PEN"]},
    {"lat": 51.4, "lon": -2.4, "elevation_m": 60, "areas": ["GRB"], "region": "uk"},
    {"lat": -37.8, "lon": 145.0, "elevation_m": 30, "areas": ["VIC"], "region": "au"},
    {},
)
DATED: dict[str, Any] = {
    "next_inspection_on": st.sampled_from(SOONER),
    "last_inspected_on": st.sampled_from(SOONER[:3]),
    "last_visit_on": st.sampled_from(SOONER[:3]),
    "planted_on": st.sampled_from(SOONER[:3]),
    "fungus_seen_on": st.sampled_from(SOONER[:3]),
    "nest_in_use_at": st.sampled_from([f"{day}T12:00:00-04:00" for day in SOONER]),
    "egg_masses_seen_on": st.sampled_from(SOONER),
    "storms_on": st.lists(st.sampled_from(SOONER), max_size=2),
    "crown_losses": st.lists(
        st.fixed_dictionaries({"on": st.sampled_from(SOONER[:2]), "percent": st.just(40)}), max_size=1
    ),
    "works": st.lists(
        st.fixed_dictionaries(
            {"works": st.just("trench"), "distance_m": st.just(1.0), "ends": st.sampled_from(SOONER)}
        ),
        max_size=1,
    ),
    "evidence": st.lists(
        st.builds(
            lambda kind, day, hour, more: told(kind, at=f"{day}T{hour:02d}:00:00-04:00", **more),
            st.sampled_from(sorted(CHECK_OF)),
            st.sampled_from(SOONER),
            st.integers(0, 23),
            st.fixed_dictionaries(
                {
                    "result": st.sampled_from(("none", "own", "in_use", "feature")),
                    "begins": st.sampled_from((None, *SOONER)),
                    "until": st.sampled_from((None, *SOONER)),
                    "acts": st.just(EVERY_ACT),
                }
            ),
        ),
        max_size=4,
    ),
    "people": st.just(PEOPLE),
    "crews": st.just(CREWS),
    "confirmed_on": st.sampled_from(SOONER[:3]),
    "on_wires": st.booleans(),
    "protected": st.lists(st.sampled_from(("protected", "conservation_area")), max_size=1),
}
CASES = st.builds(
    lambda of, where, more: {**of[1], **where, **more},
    st.sampled_from(RULES),
    st.sampled_from(PLACES),
    st.fixed_dictionaries({}, optional=DATED),
)


def between(on: datetime.date, until: str, share: float) -> datetime.date:
    """A day on or after the first and before the last."""
    days = (datetime.date.fromisoformat(until) - on).days
    return on + datetime.timedelta(days=int(share * (days - 1)))


class HoldsUntil(unittest.TestCase):
    @EXAMPLES
    @given(CASES, DAYS, st.sampled_from((0.3, 0.7, 1.0)))
    def test_proposals(self, case: dict[str, Any], on: datetime.date, share: float) -> None:
        told = propose({**case, "on": on.isoformat()}, FLORA)
        then = between(on, told["holds_until"], share)
        self.assertGreater(told["holds_until"], on.isoformat())
        again = propose({**case, "on": then.isoformat()}, FLORA)
        for key in ("proposals", "held_back", "only"):
            self.assertEqual(again[key], told[key], (on, then))  # type: ignore[literal-required]

    def test_most_hold_for_weeks(self) -> None:
        """Else nothing would be gained by keeping them."""
        spans = [
            (datetime.date.fromisoformat(propose(case, FLORA)["holds_until"]) - day).days
            for _, case, _ in RULES
            for day in [datetime.date.fromisoformat(case["on"])]
        ]
        self.assertGreater(sorted(spans)[len(spans) // 2], 14)

    @EXAMPLES
    @given(
        CASES,
        DAYS,
        st.integers(0, 200),
        st.sampled_from(("accepted", "planned", "started", "completed")),
        st.sampled_from((0.5, 1.0)),
    )
    def test_checks_before_a_step(
        self, case: dict[str, Any], on: datetime.date, ahead: int, step: str, share: float
    ) -> None:
        asked = {
            "rule": "R06",
            "step": step,
            "on": (on + datetime.timedelta(days=ahead if step == "planned" else 0)).isoformat(),
        }
        told = may_take_step({**asked, "case": {**case, "on": on.isoformat()}}, FLORA)
        then = between(on, told["holds_until"], share)
        again = may_take_step({**asked, "case": {**case, "on": then.isoformat()}}, FLORA)
        for key in ("allowed", "refusals", "flagged", "checks"):
            self.assertEqual(again[key], told[key], (on, then))  # type: ignore[literal-required]
