"""The year of a site: crews and rates, plans asked for and called off, jobs moved by hand, programmes."""

from __future__ import annotations

import datetime
from typing import Any
from unittest import mock

from django.test import TestCase
from procrastinate.contrib.django.models import ProcrastinateJob

from apps.organisations.models import Competence
from apps.organisations.services.competences import add_competence
from apps.organisations.services.contacts import make_contact
from apps.plants.tests.factories import a_plant, entry, new_id, signed_in, small_site, visit_item
from apps.work.models import PlanRun
from apps.work.tests.ready import close_for, evidence, papers, ready_site
from apps.work.tests.ready import send_then as send
from apps.work.tests.test_work import named, rules, work
from apps.work.year_plan.run import run_plan
from apps.work.year_plan.solve import Limits
from jubark_core.work.year_plan.model import monday_of

QUICK = Limits(deterministic=0.5, workers=1)
CREW = {"name": "Crew 1", "hours": 30}
RATES = {"currency": "USD", "crew_hour": 90, "machine_hour": 60, "closure_week": 400}
DEAD_LIMB = {"defect": "dead_limb", "part": "limb", "break_cm": 9, "over_target": "over_target"}
TODAY = "2026-11-10"
ON = datetime.date.fromisoformat(TODAY)


class OfASite(TestCase):
    def setUp(self) -> None:
        self.at = small_site()
        self.path = f"/api/sites/{self.at.site.id}/work/"
        self.steward = signed_in(self.at.steward)

    def settings(self, status: int = 200, **more: Any) -> Any:
        given = {"crews": [CREW], **more}
        answer = self.steward.put(self.path + "settings/", given, format="json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def job(self, plant: str, rule: str, *steps: dict[str, Any], on: str = TODAY, **first: Any) -> str:
        """A job of the rule through its steps, an accepted one first; first: what that says besides. What is
        planned, started or completed has every check closed before it.
        """
        job = new_id()
        for step in ({"step": "accepted", **first}, *steps):
            day = step.get("on", on)
            said = {k: v for k, v in step.items() if k != "on"}
            if said["step"] in ("planned", "started", "completed"):
                if not Competence.objects.filter(member=self.at.owner).exists():
                    ready_site(self.at)
                close_for(self.at, plant, day)
                said = {"crew": "Crew 1", **said}
            rows = [{**said, "step": "started"}, said] if said["step"] == "completed" else [said]
            for hour, row in enumerate(rows, start=13):
                body = entry("work", job=job, rule=rule, **row)
                at = f"{day}T{hour}:30:00+00:00"
                [answer] = send(self.steward, visit_item(plant, body, on=day, observed_at=at, mode="desk"))
                self.assertEqual(answer["answer"], "accepted", answer)
        return job

    def oak(self) -> str:
        return a_plant(self.at, named("quercus-alba"), entry("defect", **DEAD_LIMB))

    def planned(self, on: str = TODAY) -> Any:
        answer = self.steward.post(self.path + "plan/", {"on": on}, format="json")
        self.assertEqual(answer.status_code, 202, answer.content)
        run_plan(answer.json()["id"], QUICK)
        told = self.steward.get(self.path + "plan/").json()
        self.assertEqual(told["run"]["state"], "ready")
        return told["plan"]


class CrewsAndRates(OfASite):
    def test_they_are_set_whole_and_read_again(self) -> None:
        told = self.settings(**RATES, weather_lost=[30] * 12, budget=20_000)
        again = signed_in(self.at.viewer).get(self.path + "settings/").json()
        self.assertEqual(told, again)
        self.assertEqual((again["crews"][0]["name"], again["budget"]), ("Crew 1", 20_000))

    def test_bad_ones_name_their_field_and_store_nothing(self) -> None:
        stranger = small_site("Other organisation").steward
        for bad, field in (
            ({"crews": [{"name": "A", "hours": 0}]}, "crews[0].hours"),
            ({"crews": [CREW, CREW]}, "crews"),
            ({"weather_lost": [10] * 11}, "weather_lost"),
            ({"weather_lost": [101] * 12}, "weather_lost[0]"),
            ({"budget": -1}, "budget"),
            ({"skills": [{"skill": "flying", "qualification": "x"}]}, "skills[0].skill"),
            ({"crews": [{**CREW, "members": [str(stranger.id)]}]}, "crews[0].members[0]"),
            ({"causes_near": [{"cause": "rust", "km": 1}]}, "causes_near[0].cause"),
            ({"causes_near": [{"cause": "oak-wilt", "km": km} for km in (1, 2)]}, "causes_near"),
            ({"colour": "red"}, "colour"),
        ):
            with self.subTest(field):
                self.assertEqual(self.settings(400, **bad)["field"], field)
        self.assertEqual(self.steward.get(self.path + "settings/").json().get("crews", []), [])


class Plans(OfASite):
    def test_a_plan_needs_a_crew_and_one_run_at_a_time_and_is_called_off(self) -> None:
        answer = self.steward.post(self.path + "plan/", {"on": TODAY}, format="json")
        self.assertEqual((answer.status_code, answer.json()["field"]), (400, "crews"))
        self.settings()
        first = self.steward.post(self.path + "plan/", {"on": TODAY}, format="json").json()
        self.assertEqual(ProcrastinateJob.objects.filter(task_name__endswith="plan_the_year").count(), 1)
        again = self.steward.post(self.path + "plan/", {"on": TODAY}, format="json")
        self.assertEqual((again.status_code, again.json()["field"]), (400, "plan"))
        self.assertEqual(self.steward.delete(self.path + "plan/").status_code, 204)
        run_plan(first["id"], QUICK)
        told = self.steward.get(self.path + "plan/").json()
        self.assertEqual((told["plan"], told["run"]["state"]), (None, "cancelled"))
        self.assertEqual(self.steward.delete(self.path + "plan/").status_code, 204, "nothing to call off")

    def test_a_run_that_is_called_off_leaves_the_plan_that_holds(self) -> None:
        self.settings()
        self.job(self.oak(), "R06")
        before = self.planned()
        asked = self.steward.post(self.path + "plan/", {"on": TODAY}, format="json").json()
        PlanRun.objects.filter(pk=asked["id"]).update(state="running")  # a worker has it
        self.steward.delete(self.path + "plan/")
        run_plan(asked["id"], QUICK)
        told = self.steward.get(self.path + "plan/").json()
        self.assertEqual((told["plan"], told["run"]["state"]), (before, "cancelled"))

    def test_a_run_whose_workers_keep_dying_is_given_up(self) -> None:
        self.settings()
        asked = self.steward.post(self.path + "plan/", {"on": TODAY}, format="json").json()
        PlanRun.objects.filter(pk=asked["id"]).update(state="running", attempts=3)
        run_plan(asked["id"], QUICK)
        self.assertEqual(PlanRun.objects.get(pk=asked["id"]).state, "failed")

    def test_a_failure_is_a_state_and_not_a_plan(self) -> None:
        self.settings()
        asked = self.steward.post(self.path + "plan/", {"on": TODAY}, format="json").json()
        broken = mock.patch("apps.work.year_plan.run.year_of", side_effect=OverflowError)
        with broken, self.assertLogs("jubark.plan"), self.assertRaises(OverflowError):
            run_plan(asked["id"], QUICK)
        told = self.steward.get(self.path + "plan/").json()
        self.assertEqual((told["plan"], told["run"]["state"]), (None, "failed"))

    def test_jobs_come_into_weeks_of_their_season_with_hours_and_cost(self) -> None:
        self.settings(**RATES)
        job = self.job(self.oak(), "R06", {"step": "changed", "reason": "smaller", "hours": 4})
        plan = self.planned()
        [row] = plan["jobs"]
        self.assertEqual((row["job"], row["crew"], row["hours"], row["cost"]), (job, "Crew 1", 4.0, 360.0))
        self.assertEqual(row["week"], monday_of(ON).isoformat())
        load = {r["week"]: r for r in plan["load"]}
        self.assertEqual(len(load), 52)
        self.assertEqual((load[row["week"]]["hours"], load[row["week"]]["capacity"]), (4.0, 30.0))
        self.assertEqual(
            {t["by"]: t["cost"] for t in plan["totals"]}, {"block": 360, "month": 360, "kind": 360}
        )
        self.assertEqual(plan["money"], {"spent": 360, "budget": None, "currency": "USD"})

    def test_what_was_promised_stays_and_what_is_gone_by_is_carried_over(self) -> None:
        self.settings()
        ahead = self.job(self.oak(), "R06", {"step": "planned", "begins": "2027-02-10"})
        late = self.job(
            self.oak(),
            "R06",
            {"step": "planned", "begins": "2026-11-02", "on": "2026-10-28"},
            on="2026-10-28",
        )
        changed = entry("work", job=ahead, rule="R06", step="changed", reason="two limbs more", hours=3)
        tree = next(j["plant"] for j in work(self.at)["jobs"] if j["job"] == ahead)
        send(self.steward, visit_item(tree, changed, on=TODAY, mode="desk"))
        rows = {row["job"]: row for row in self.planned()["jobs"]}
        self.assertEqual((rows[ahead]["week"], rows[ahead]["stays"]), ("2027-02-08", "promised"))
        self.assertEqual((rows[late]["week"], rows[late]["carried_over"]), (monday_of(ON).isoformat(), True))

    def test_what_does_not_fit_says_what_binds_and_what_would_free_it(self) -> None:
        self.settings(**RATES, budget=500)
        for hours in (4, 4):
            self.job(self.oak(), "R06", {"step": "changed", "reason": "as seen", "hours": hours})
        long = self.job(
            self.oak(), "R06", {"step": "changed", "reason": "as seen", "hours": 9000, "cost": 0.01}
        )
        left = {row["binds"]: row for row in self.planned()["unplanned"]}
        self.assertEqual(left["money"]["why"], "The budget is spent: 220 USD short.")
        self.assertEqual(left["money"]["frees"], "220 USD more.")
        self.assertEqual(left["hours"]["job"], long)
        self.assertIn("more of Crew 1 in the week of", left["hours"]["frees"])

    def test_a_treated_stem_is_cut_thirty_days_later_in_winter(self) -> None:
        self.settings()
        tree = a_plant(self.at, named("ailanthus-altissima"), on="2025-06-01")
        job = self.job(tree, "R32", on="2026-07-02")
        rows = {row["id"]: row for row in self.planned(on="2026-07-06")["jobs"]}
        self.assertEqual(rows[job]["week"], "2026-07-06")
        self.assertEqual(rows[f"{job}/cut"]["week"], "2026-09-28", "the week of 1 October")

    def test_a_permit_a_last_day_and_a_crew_away_are_held(self) -> None:
        self.settings(crews=[{**CREW, "away": [{"begins": "2026-11-09", "ends": "2026-11-22"}]}])
        permit = self.job(
            self.oak(), "R06", {"step": "changed", "reason": "outage", "earliest_on": "2027-01-12"}
        )
        gone_by = {"step": "changed", "reason": "before the beetles", "latest_on": "2026-11-20"}
        late = self.job(self.oak(), "R06", gone_by)
        free = self.job(self.oak(), "R06")
        plan = self.planned()
        weeks = {row["job"]: row["week"] for row in plan["jobs"]}
        self.assertEqual(weeks, {permit: "2027-01-11", free: "2026-11-23"})
        [left] = plan["unplanned"]
        self.assertEqual((left["job"], left["binds"]), (late, "window"), "the crew is away until then")
        self.assertEqual(left["frees"], "Its last day moved to 27 November 2026.")
        tree = next(j["plant"] for j in work(self.at)["jobs"] if j["job"] == permit)
        ready_site(self.at)
        close_for(self.at, tree, TODAY)
        for begins, answered in (("2027-01-11", "refused"), ("2027-01-12", "accepted")):
            step = entry("work", job=permit, rule="R06", step="planned", begins=begins)
            [answer] = send(self.steward, visit_item(tree, step, on=TODAY, mode="desk"))
            self.assertEqual(answer["answer"], answered, answer)
            self.assertEqual("Not before 2027-01-12" in answer.get("message", ""), answered == "refused")
        away = {"begins": "2026-11-22", "ends": "2026-11-09"}
        self.assertEqual(
            self.settings(400, crews=[{**CREW, "away": [away]}])["field"], "crews[0].away[0].ends"
        )

    def test_what_is_gone_is_not_planned(self) -> None:
        self.settings()
        tree = self.oak()
        self.job(tree, "R06")
        send(self.steward, visit_item(tree, entry("life", state="removed"), on=TODAY, mode="desk"))
        self.assertEqual(self.planned()["jobs"], [])

    def test_a_nest_in_use_moves_a_job(self) -> None:
        self.settings()
        tree = self.oak()
        nest = entry("habitat", feature="nest", in_use="in_use")
        send(self.steward, visit_item(tree, nest, on=TODAY))
        self.job(tree, "R06")
        [row] = self.planned()["jobs"]
        self.assertEqual(row["week"], "2026-12-21", "six weeks after 10 November")
        [job] = work(self.at)["jobs"]
        self.assertIn(
            "a nest or roost in use was seen on 2026-11-10", " ".join(c["why"] for c in job["checks"])
        )


class MovedByHand(OfASite):
    def move(self, job: str, on: str | None, status: int = 204) -> Any:
        given = {"job": job, "on": on, "today": TODAY}
        answer = self.steward.post(self.path + "moves/", given, format="json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json() if answer.content else None

    def test_the_plan_goes_round_it_until_it_is_given_back(self) -> None:
        self.settings()
        jobs = [
            self.job(self.oak(), "R06", {"step": "changed", "reason": "all day", "hours": 20}) for _ in "ab"
        ]
        weeks = {row["job"]: row["week"] for row in self.planned()["jobs"]}
        self.assertEqual(len(set(weeks.values())), 2)
        later = next(job for job in jobs if weeks[job] == max(weeks.values()))
        first = next(job for job in jobs if job != later)
        self.move(later, TODAY)
        rows = {row["job"]: row for row in self.planned()["jobs"]}
        self.assertEqual((rows[later]["week"], rows[later]["stays"]), (monday_of(ON).isoformat(), "moved"))
        self.assertEqual(rows[first]["week"], "2026-11-16")
        self.move(later, None)
        self.assertEqual({row["stays"] for row in self.planned()["jobs"]}, {""})

    def test_a_week_in_which_it_may_not_be_done_is_refused_and_says_which(self) -> None:
        self.settings()
        tree = a_plant(self.at, named("ailanthus-altissima"), on="2025-06-01")
        job = self.job(tree, "R32", on="2026-07-02")
        told = self.move(job, "2027-01-12", 400)
        self.assertEqual(told["field"], "on")
        self.assertIn("2027-07-01 to 2027-09-30", told["allowed"])
        self.assertEqual(self.move(job, "2026-11-09", 400)["field"], "on")
        self.assertEqual(self.move(job, "2028-11-09", 400)["field"], "on")
        self.assertEqual(self.move(job, "soon", 400)["field"], "on")
        self.assertEqual(self.move(new_id(), TODAY, 400)["field"], "job")


class Licences(OfASite):
    def start(self, plant: str, crew: str = "Crew 1", **more: Any) -> dict[str, Any]:
        job = new_id()
        if not more:
            close_for(self.at, plant, TODAY)
        for step in ("accepted", "started"):
            row = entry("work", job=job, rule="OTHER", step=step, crew=crew, acts=[{"act": "climb"}], **more)
            [answer] = send(self.steward, visit_item(plant, row, on=TODAY, mode="desk"))
        return answer

    def test_two_of_the_crew_hold_it_on_the_day_and_a_contractor_his_approval(self) -> None:
        asks = {"skills": [{"skill": "climbing", "qualification": "Tree climber"}]}
        crew = {**CREW, "members": [str(self.at.surveyor.id), str(self.at.owner.id)]}
        self.settings(**asks, crews=[crew])
        papers(self.at.steward, "wildlife_biology")
        papers(self.at.owner, "rescue")
        tree = self.oak()
        refused = self.start(tree)
        self.assertEqual(refused["answer"], "refused")
        self.assertIn("somebody of Crew 1 with climbing valid on 2026-11-10", refused["message"])
        paper = {"name": "tree climber", "valid_from": "2024-01-01", "valid_until": "2026-11-09"}
        add_competence(actor=self.at.steward, member=self.at.surveyor, given=paper)
        self.assertEqual(self.start(tree)["answer"], "refused", "it ended the day before")
        later = {**paper, "valid_until": "2026-11-10"}
        add_competence(actor=self.at.steward, member=self.at.surveyor, given=later)
        self.assertEqual(self.start(tree).get("message"), None)
        self.assertIn("is no crew of the site", self.start(tree, "Crew 9")["message"])
        shows = [{"name": skill, "skill": skill} for skill in ("approved_contractor", "insurance")]
        firm = make_contact(actor=self.at.steward, given={"name": "A firm", "papers": shows})
        self.assertIn("the names of its people", self.start(tree, contractor=str(firm.id))["message"])
        names = evidence("names_given", by="the firm", reference="list 4")
        looks = evidence("nest_look", result="none", contact=str(firm.id))
        send(self.steward, visit_item(tree, names, looks, on=TODAY, observed_at=f"{TODAY}T13:00:00+00:00"))
        self.assertEqual(self.start(tree, contractor=str(firm.id)).get("message"), None)

    def test_the_plan_gives_it_to_nobody_else_and_says_so(self) -> None:
        asks = {"skills": [{"skill": "climbing", "qualification": "Tree climber"}]}
        self.settings(**asks)
        self.job(self.oak(), "R06", {"step": "changed", "reason": "high", "equipment": "climb"})
        [left] = self.planned()["unplanned"]
        self.assertEqual(
            (left["binds"], left["frees"]), ("skill", "A crew member with the licence, or a contractor.")
        )


class ProgrammesOfASite(OfASite):
    def test_a_treated_shrub_comes_back_the_next_year_and_is_answered_by_a_job_that_follows(self) -> None:
        shrub = a_plant(
            self.at,
            named("rhamnus-cathartica"),
            entry("measurement", quantity="dbh_cm", raw={"value": 4}, method="taped"),
            on="2025-06-01",
        )
        done = self.job(shrub, "R33", {"step": "completed"}, on="2025-11-20")
        self.assertEqual(rules(work(self.at, on="2025-11-21")), [], "not again on the same facts")
        self.assertEqual([d["rule"] for d in work(self.at, on="2025-11-21")["done"]], ["R33"])
        [again] = work(self.at, on="2026-06-01")["proposals"]
        self.assertEqual((again["follows"], again["part"]), (done, ""))
        self.assertEqual(again["proposal"]["why"], ["year 1 of 5 of the programme, due 2026-11-20"])
        body = entry("work", job=new_id(), rule="R33", step="accepted", follows=done)
        send(self.steward, visit_item(shrub, body, on="2026-06-01", mode="desk"))
        found = work(self.at, on="2026-06-02")
        self.assertEqual(found["proposals"], [])
        self.assertFalse(found["jobs"][0]["unfounded"])

    def test_the_cut_cannot_be_started_before_its_days_have_passed(self) -> None:
        tree = a_plant(self.at, named("ailanthus-altissima"), on="2025-06-01")
        treated = self.job(tree, "R32", {"step": "completed"}, on="2025-09-20")
        [cut] = work(self.at, on="2025-10-05")["proposals"]
        self.assertEqual((cut["part"], cut["follows"]), ("cut", treated))
        other = self.job(tree, "R02", {"step": "completed"}, on="2025-09-02")
        cut_ = {"job": new_id(), "rule": "R32", "part": "cut", "follows": other}
        for more in ({"step": "accepted"}, {"step": "planned", "begins": "2025-12-01"}):
            step = entry("work", **cut_, **more)
            [answer] = send(self.steward, visit_item(tree, step, on="2025-10-01", mode="desk"))
        self.assertIn("Its first part is not completed yet", answer["message"], "another job is no treatment")
        self.settings()
        taken = self.job(tree, "R32", on="2025-09-22", part="cut", follows=treated)
        [row] = [r for r in self.planned(on="2025-09-22")["jobs"] if r["job"] == taken]
        self.assertEqual(row["week"], "2025-10-20", "thirty days after the treatment")
        ready_site(self.at)
        for day, answered in (("2025-10-15", "refused"), ("2025-10-20", "accepted")):
            close_for(self.at, tree, day)
            step = entry("work", job=taken, rule="R32", part="cut", step="started", crew="Crew 1")
            [answer] = send(self.steward, visit_item(tree, step, on=day, mode="desk"))
            self.assertEqual(answer["answer"], answered, answer)
