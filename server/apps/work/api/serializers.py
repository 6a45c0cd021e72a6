"""Work of a site as the front end sees it."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from apps.work.models import PlanRun
from jubark_core.records.typed_schema import REF


@extend_schema_field({"$ref": REF + "Proposal"})
class ProposalField(serializers.DictField):
    """A proposal as the core has it."""


@extend_schema_field({"type": "array", "items": {"$ref": REF + "CheckState"}})
class CheckStatesField(serializers.ListField):
    """Checks before the work, as the core has them."""


class OfTreeSerializer(serializers.Serializer[Any]):
    """Which tree it is."""

    plant = serializers.UUIDField()
    tag = serializers.CharField(allow_blank=True, help_text="or its place in a row, where it bears none")
    name = serializers.CharField(allow_blank=True)
    block = serializers.UUIDField()
    block_name = serializers.CharField()


class ProposedSerializer(OfTreeSerializer):
    """What a tree's file proposes."""

    proposal = ProposalField()
    follows = serializers.UUIDField(allow_null=True, help_text="the completed job that asks for it")
    part = serializers.CharField(allow_blank=True, help_text="the later part of that job; empty: a year")
    only = serializers.ListField(child=serializers.CharField())


class JobSerializer(OfTreeSerializer):
    """A job that is not over, and what blocks it."""

    job = serializers.UUIDField()
    rule = serializers.CharField()
    part = serializers.CharField(allow_blank=True)
    follows = serializers.UUIDField(allow_null=True)
    title = serializers.CharField()
    act = serializers.CharField()
    step = serializers.CharField()
    do = serializers.CharField()
    begins = serializers.CharField(allow_blank=True)
    equipment = serializers.CharField(allow_blank=True)
    crew = serializers.CharField(allow_blank=True)
    street = serializers.CharField(allow_blank=True)
    hours = serializers.FloatField(help_text="its own, else by the tool's table")
    cost = serializers.FloatField(help_text="its own, else by the site's rates")
    priority = serializers.IntegerField()
    held_by_wires = serializers.BooleanField()
    twice = serializers.BooleanField(help_text="another of the same rule is open on the tree besides")
    rating = serializers.CharField(allow_blank=True, help_text="of the risk of its tree")
    acts = serializers.ListField(child=serializers.CharField())
    asks = serializers.ListField(child=serializers.CharField(), help_text="wording that names another act")
    checks = CheckStatesField()
    stop = serializers.BooleanField(help_text="a nest or roost in use was found since it began")
    though = serializers.ListField(
        child=serializers.CharField(), help_text="what stood against a step that was taken all the same"
    )
    unfounded = serializers.BooleanField()
    unfounded_why = serializers.ListField(child=serializers.CharField())


class DoneJobSerializer(OfTreeSerializer):
    """A job completed within a year."""

    job = serializers.UUIDField()
    rule = serializers.CharField()
    title = serializers.CharField()
    on = serializers.DateField()
    result = serializers.CharField(allow_blank=True)
    workmanship = serializers.CharField(allow_blank=True)
    though = serializers.ListField(
        child=serializers.CharField(), help_text="what stood against it and was done all the same"
    )
    hours = serializers.FloatField(allow_null=True)
    cost = serializers.FloatField(allow_null=True)


class WithdrawnSerializer(OfTreeSerializer):
    """A proposal that a new name or another diagnosis has withdrawn, and why."""

    rule = serializers.CharField()
    title = serializers.CharField()
    why = serializers.ListField(child=serializers.CharField())
    on = serializers.DateField()


class HeldBackSerializer(OfTreeSerializer):
    """What a rule would ask for and why it does not."""

    rule = serializers.CharField()
    title = serializers.CharField()
    why = serializers.CharField()


class BlockInOrderSerializer(serializers.Serializer[Any]):
    """A block in the order of rounds, with what it is sick of."""

    block = serializers.UUIDField()
    block_name = serializers.CharField()
    causes = serializers.ListField(child=serializers.CharField())


@extend_schema_field({"$ref": REF + "LookUpIn"})
class LookUpField(serializers.DictField):
    """Evidence for many trees as the core has it."""


class LookUpSerializer(serializers.Serializer[Any]):
    """Evidence for many trees, who told it, and whether it was withdrawn."""

    id = serializers.UUIDField()
    body = LookUpField()
    made_by = serializers.CharField(source="made_by.shown_name")
    made_at = serializers.DateTimeField()
    withdrawn_at = serializers.DateTimeField(allow_null=True)
    withdrawn_why = serializers.CharField(allow_blank=True)


class ReasonSerializer(serializers.Serializer[Any]):
    """Why."""

    reason = serializers.CharField(max_length=300, allow_blank=True)


class AreasSerializer(serializers.Serializer[Any]):
    """The areas a site is to have."""

    areas = serializers.ListField(child=serializers.CharField(max_length=3), max_length=5)


class ChangedJobSerializer(serializers.Serializer[Any]):
    """An open job of which other checks stand open."""

    job = serializers.UUIDField()
    tag = serializers.CharField(allow_blank=True)
    rule = serializers.CharField()
    open_before = serializers.ListField(child=serializers.CharField())
    open_after = serializers.ListField(child=serializers.CharField())


class AreasSetSerializer(serializers.Serializer[Any]):
    """Whether they were set, or wait for a second person; and what changes."""

    set = serializers.BooleanField()
    areas = serializers.ListField(child=serializers.CharField())
    jobs = serializers.IntegerField(help_text="that are open")
    changed = ChangedJobSerializer(many=True)


class ToLookUpSerializer(serializers.Serializer[Any]):
    """What nobody has looked up of a block: of how many trees with an open job."""

    block = serializers.UUIDField()
    block_name = serializers.CharField()
    check = serializers.CharField()
    title = serializers.CharField()
    kind = serializers.CharField()
    jobs = serializers.IntegerField()
    trees = serializers.IntegerField()


class SiteWorkSerializer(serializers.Serializer[Any]):
    """Proposals nobody has taken up, jobs that are not over, and what was done within a year."""

    on = serializers.DateField()
    proposals = ProposedSerializer(many=True)
    more = serializers.IntegerField(help_text="proposals beyond those listed")
    too_many = serializers.IntegerField(
        help_text="trees, where they are more than are judged at once: then proposals are read block by block"
    )
    jobs = JobSerializer(many=True)
    done = DoneJobSerializer(many=True)
    withdrawn = WithdrawnSerializer(many=True)
    held_back = HeldBackSerializer(many=True)
    order = BlockInOrderSerializer(many=True, help_text="where a disease travels in soil; else empty")
    currency = serializers.CharField(allow_blank=True)


class InPlanSerializer(OfTreeSerializer):
    """A job, or a later part of one, as a plan has it."""

    id = serializers.CharField(help_text="of the job, or with / and its part")
    job = serializers.UUIDField()
    title = serializers.CharField()
    act = serializers.CharField()
    step = serializers.CharField()
    street = serializers.CharField(allow_blank=True)
    hours = serializers.FloatField()
    cost = serializers.FloatField()
    carried_over = serializers.BooleanField()
    windows = serializers.ListField(child=serializers.ListField(child=serializers.DateField()))


class PlannedSerializer(InPlanSerializer):
    """With its week."""

    week = serializers.DateField(help_text="its Monday")
    weeks = serializers.IntegerField()
    crew = serializers.CharField()
    stays = serializers.ChoiceField(choices=["", "promised", "moved"])


class UnplannedSerializer(InPlanSerializer):
    """With what binds it."""

    binds = serializers.CharField(help_text="hours, money, skill, after or window")
    why = serializers.CharField()
    frees = serializers.CharField(allow_blank=True)


class LoadSerializer(serializers.Serializer[Any]):
    """Hours of a crew in a week."""

    crew = serializers.CharField()
    week = serializers.DateField()
    hours = serializers.FloatField()
    capacity = serializers.FloatField()


class ClosureSerializer(serializers.Serializer[Any]):
    """A street that is closed in a week."""

    street = serializers.CharField()
    week = serializers.DateField()


class TotalSerializer(serializers.Serializer[Any]):
    """What comes to a block, a month or a kind of work."""

    by = serializers.ChoiceField(choices=["block", "month", "kind"])
    of = serializers.CharField()
    jobs = serializers.IntegerField()
    hours = serializers.FloatField()
    cost = serializers.FloatField()


class MoneySerializer(serializers.Serializer[Any]):
    """What the plan costs."""

    spent = serializers.IntegerField()
    budget = serializers.IntegerField(allow_null=True)
    currency = serializers.CharField(allow_blank=True)


class PlanSerializer(serializers.Serializer[Any]):
    """A plan of a year."""

    first_week = serializers.DateField()
    weeks = serializers.IntegerField()
    jobs = PlannedSerializer(many=True)
    unplanned = UnplannedSerializer(many=True)
    load = LoadSerializer(many=True)
    closures = ClosureSerializer(many=True)
    totals = TotalSerializer(many=True)
    money = MoneySerializer()
    gap = serializers.FloatField(help_text="how far it may be from the best, as a share")
    seconds = serializers.FloatField()


class PlanRunSerializer(serializers.Serializer[Any]):
    """A run of the planner."""

    id = serializers.UUIDField()
    state = serializers.ChoiceField(choices=["waiting", "running", "ready", "cancelled", "failed"])
    asked_at = serializers.DateTimeField()
    began_at = serializers.DateTimeField(allow_null=True)
    ended_at = serializers.DateTimeField(allow_null=True)
    cancel_asked = serializers.BooleanField()
    planned = serializers.SerializerMethodField(help_text="jobs in the best plan so far")

    def get_planned(self, run: PlanRun) -> int | None:
        planned: int | None = run.progress.get("planned")
        return planned


class YearPlanSerializer(serializers.Serializer[Any]):
    """The plan that holds, and the newest run."""

    plan = PlanSerializer(allow_null=True)
    run = PlanRunSerializer(allow_null=True)


class PlanAskedSerializer(serializers.Serializer[Any]):
    """A plan is asked for."""

    on = serializers.CharField(max_length=10, help_text="the day; the plan begins with its week")


class MoveSerializer(serializers.Serializer[Any]):
    """A job put on a day."""

    job = serializers.UUIDField()
    on = serializers.CharField(max_length=10, allow_null=True, help_text="none: given back to the plan")
    today = serializers.CharField(max_length=10)


class PricedSerializer(OfTreeSerializer):
    """A job with its cost and the risk it takes away."""

    job = serializers.UUIDField()
    title = serializers.CharField()
    cost = serializers.FloatField()
    rating = serializers.CharField(allow_blank=True)
    points = serializers.IntegerField()


class SpendingSerializer(serializers.Serializer[Any]):
    """What to do with so much money."""

    done = PricedSerializer(many=True)
    undone = PricedSerializer(many=True)
    then = PricedSerializer(many=True, help_text="without a rating, by urgency, with what is left")
    unrated = PricedSerializer(many=True)
    spent = serializers.FloatField()
    taken_away = serializers.IntegerField()
    at_most = serializers.FloatField(help_text="no choice for this money takes more away")
    weights = serializers.DictField(child=serializers.IntegerField())
    currency = serializers.CharField(allow_blank=True)


class VacantSerializer(OfTreeSerializer):
    """A planting site nothing stands in. not_here: genera that died there of what stays in the soil."""

    row_name = serializers.CharField(allow_blank=True)
    row_position = serializers.IntegerField(allow_null=True)
    not_here = serializers.ListField(child=serializers.CharField())


class ShareSerializer(serializers.Serializer[Any]):
    """What a species, genus or family has of the stand."""

    rank = serializers.ChoiceField(choices=["species", "genus", "family"])
    name = serializers.CharField()
    stems = serializers.IntegerField()
    of_stems = serializers.FloatField(help_text="share, 0 to 1")
    of_crown = serializers.FloatField(help_text="share of the crown area measured, 0 to 1")
    limit = serializers.FloatField()


class SurvivalSerializer(serializers.Serializer[Any]):
    """Of what was planted of a taxon in a block, how many are alive."""

    name = serializers.CharField()
    block = serializers.CharField()
    planted = serializers.IntegerField()
    alive = serializers.IntegerField()


class PlantingSerializer(serializers.Serializer[Any]):
    """Planting on a site."""

    on = serializers.DateField()
    season = serializers.ListField(child=serializers.DateField())
    vacant = VacantSerializer(many=True)
    trees = serializers.IntegerField(help_text="alive")
    few = serializers.BooleanField(help_text="too few for shares to say much")
    over = ShareSerializer(many=True)
    exceeds = ShareSerializer(many=True)
    survival = SurvivalSerializer(many=True)
