"""Visits and their entries: added, never changed. Each entry has one body in the table of its kind."""

from __future__ import annotations

from django.contrib.postgres.fields import ArrayField
from django.db import models

from apps.organisations.models import Member, Organisation
from apps.organisations.triggers import append_only, in_calendar, same_organisation
from apps.plants.models import words
from apps.plants.models.plant import Plant


class Visit(models.Model):
    """One person at one plant at one time."""

    id = models.UUIDField(primary_key=True, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    plant = models.ForeignKey(Plant, on_delete=models.PROTECT, related_name="visits")
    author = models.ForeignKey(Member, on_delete=models.PROTECT, null=True)
    observer = models.CharField(max_length=80, help_text="the author's name as it was then")
    mode = models.CharField(max_length=6, choices=words.MODES, default="field")
    local_date = models.DateField()
    observed_at = models.DateTimeField()
    utc_offset_min = models.SmallIntegerField(default=0)
    received_at = models.DateTimeField(auto_now_add=True)
    stage = models.CharField(max_length=10, choices=words.STAGES, default="mature")
    setting = models.CharField(max_length=20, default="unknown")
    origin = models.CharField(max_length=8, choices=words.ORIGINS, default="unknown")
    light = models.CharField(max_length=8, default="unknown")
    sex = models.CharField(max_length=8, choices=words.SEXES, default="unknown")
    clock_doubtful = models.BooleanField(default=False)

    class Meta:
        indexes = [models.Index(fields=["plant", "local_date"])]
        constraints = [
            in_calendar("local_date", "visit_date_in_calendar"),
            in_calendar("observed_at", "visit_time_in_calendar"),
        ]
        triggers = [
            append_only("visit_append_only"),
            same_organisation("plant_id", "plants_plant", "visit_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.local_date} {self.observer}"


class Entry(models.Model):
    """One thing recorded on a visit. A correction is a new entry that names the one it replaces."""

    id = models.UUIDField(primary_key=True, editable=False)
    organisation = models.ForeignKey(Organisation, on_delete=models.PROTECT)
    plant = models.ForeignKey(Plant, on_delete=models.PROTECT, related_name="entries")
    visit = models.ForeignKey(Visit, on_delete=models.PROTECT, related_name="entries")
    kind = models.CharField(max_length=15, choices=words.KINDS)
    author = models.ForeignKey(Member, on_delete=models.PROTECT, null=True)
    observer = models.CharField(max_length=80)
    recorded_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)
    replaces = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="replaced_by")
    retracts = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="retracted_by")
    reason = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["plant", "kind"])]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(replaces__isnull=True) | models.Q(retracts__isnull=True),
                name="entry_replaces_or_retracts",
            ),
            in_calendar("recorded_at", "entry_time_in_calendar"),
        ]
        triggers = [
            append_only("entry_append_only"),
            same_organisation("plant_id", "plants_plant", "entry_plant_same_organisation"),
            same_organisation("visit_id", "plants_visit", "entry_visit_same_organisation"),
            same_organisation("replaces_id", "plants_entry", "entry_replaces_same_organisation"),
            same_organisation("retracts_id", "plants_entry", "entry_retracts_same_organisation"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.id}"


class Body(models.Model):
    """What an entry says; one row per entry, in the table of its kind."""

    entry = models.OneToOneField(Entry, on_delete=models.PROTECT, primary_key=True, related_name="%(class)s")

    class Meta:
        abstract = True


class Look(Body):
    """One observation of a character, in the engine's own form."""

    character = models.CharField(max_length=60)
    states = ArrayField(models.CharField(max_length=40), default=list)
    absent = ArrayField(models.CharField(max_length=40), default=list)
    values = ArrayField(models.FloatField(), default=list)
    k = models.PositiveIntegerField(null=True)
    n = models.PositiveIntegerField(null=True)
    none = models.BooleanField(default=False)
    skipped = models.BooleanField(default=False)
    applies = models.BooleanField(
        default=True, help_text="false: what is asked about makes no sense on this plant"
    )
    certainty = models.CharField(max_length=7, choices=words.CERTAINTIES, default="likely")
    seen = models.CharField(max_length=9, choices=words.SEEN, default="plant")
    specimen = models.CharField(max_length=100, blank=True)
    where = models.CharField(max_length=10, blank=True)
    shoot = models.CharField(max_length=10, blank=True)

    class Meta:
        triggers = [append_only("look_append_only")]


class Determination(Body):
    """A name as entered, the accepted id it stands for, and what it rests on."""

    entered = models.CharField(max_length=160)
    taxon = models.CharField(max_length=80)
    name = models.CharField(max_length=160)
    name_rank = models.CharField(max_length=10, choices=words.RANKS)
    probability = models.FloatField(null=True)
    looks = ArrayField(models.UUIDField(), default=list)
    not_told_from = ArrayField(models.CharField(max_length=80), default=list)
    reason = models.CharField(max_length=300, blank=True, help_text="why above or below the supported rank")
    flora = models.CharField(max_length=40, blank=True)
    engine = models.CharField(max_length=20, blank=True)

    class Meta:
        triggers = [append_only("determination_append_only")]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(probability__isnull=True)
                | models.Q(probability__gte=0, probability__lte=1),
                name="probability_0_to_1",
            )
        ]


class Measurement(Body):
    """A figure with its raw readings, how it was taken and by which convention."""

    quantity = models.CharField(max_length=20, choices=words.QUANTITIES)
    value = models.FloatField(help_text="SI as named in the quantity")
    error = models.FloatField(null=True)
    raw = models.JSONField()
    unit_entered = models.CharField(max_length=4, default="cm")
    method = models.CharField(max_length=10, choices=words.METHODS, default="taped")
    at_height_m = models.DecimalField(max_digits=3, decimal_places=2, null=True)
    combine = models.CharField(max_length=20, default="squares")
    shoots = models.PositiveSmallIntegerField(default=1)
    least_cm = models.FloatField(
        default=0, help_text="the least that was measured then; the figure is of the stems that reach it"
    )
    thinner = models.PositiveSmallIntegerField(
        default=0, help_text="stems thinner than the least that is measured"
    )
    stem_form = models.CharField(
        max_length=20, blank=True, choices=words.STEM_FORMS, help_text="by which rule the place was found"
    )

    class Meta:
        triggers = [append_only("measurement_append_only")]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(value__gte=0, value__lt=10_000), name="measurement_in_reason"
            )
        ]


class ConditionScore(Body):
    """Condition of the whole stem in one word, and, where it was graded part by part, the grades it follows
    from.
    """

    word = models.CharField(max_length=10, choices=words.CONDITIONS)
    leafless = models.BooleanField(default=False)
    parts = models.JSONField(default=dict, help_text="part -> grade 0 (worst) to 4, or not_seen")
    health = models.FloatField(null=True)
    structure = models.FloatField(null=True)
    base_visible = models.CharField(max_length=12, blank=True, choices=words.BASE_VISIBLE)
    flare = models.CharField(max_length=10, blank=True, choices=words.FLARE)
    crown_class = models.CharField(max_length=14, blank=True, choices=words.CROWN_CLASSES)
    crown_light = models.CharField(max_length=10, blank=True, choices=words.CROWN_LIGHT)

    class Meta:
        triggers = [append_only("condition_append_only")]


class Defect(Body):
    """A defect, where it is, and how far it reaches."""

    defect = models.CharField(max_length=20, choices=words.DEFECTS)
    part = models.CharField(max_length=6, choices=words.PARTS)
    extent_percent = models.PositiveSmallIntegerField(null=True)

    class Meta:
        triggers = [append_only("defect_append_only")]


class RiskSheet(Body):
    """A risk worksheet: what may fail and hit what, by the published matrices. A qualified assessor
    decides.
    """

    rows = models.JSONField()
    years = models.FloatField(help_text="time frame of the likelihoods")
    level = models.CharField(max_length=14, choices=words.RISK_LEVELS)
    base_seen = models.BooleanField()
    crown_seen = models.BooleanField()
    rating = models.CharField(max_length=8, blank=True, choices=words.RATINGS)
    residual = models.CharField(max_length=8, blank=True, choices=words.RATINGS)
    next_look = models.DateField(null=True)

    class Meta:
        triggers = [append_only("risk_sheet_append_only")]


class Sign(Body):
    """A sign of a pest or disease, seen or looked for and not there."""

    sign = models.CharField(max_length=30)
    present = models.BooleanField(default=True)
    extent_percent = models.PositiveSmallIntegerField(null=True)

    class Meta:
        triggers = [append_only("sign_append_only")]


class Photo(Body):
    """That a photograph was taken, of what, and its hash; the file travels apart."""

    sha256 = models.CharField(max_length=64)
    bytes = models.PositiveIntegerField()
    organ = models.CharField(max_length=20, blank=True)
    defect = models.CharField(
        max_length=20, blank=True, choices=words.DEFECTS, help_text="the defect it shows, where it shows one"
    )
    face = models.CharField(max_length=20, blank=True)
    scale_in_frame = models.BooleanField(default=False)

    class Meta:
        triggers = [append_only("photo_append_only")]


class Voucher(Body):
    """A pressed specimen: organ, number, where it is kept, by whose permission."""

    organ = models.CharField(max_length=20)
    number = models.CharField(max_length=40)
    kept_at = models.CharField(max_length=120)
    permission = models.CharField(max_length=120, blank=True)

    class Meta:
        triggers = [append_only("voucher_append_only")]


class Note(Body):
    """Plain words."""

    text = models.TextField(max_length=4000)

    class Meta:
        triggers = [append_only("note_append_only")]


class Tag(Body):
    """Something that happened to a tag: set, lost, retired, a second one found."""

    number = models.CharField(max_length=20)
    material = models.CharField(max_length=30, blank=True)
    position = models.CharField(max_length=60, blank=True)
    state = models.CharField(max_length=8, choices=words.TAG_STATES, default="set")

    class Meta:
        triggers = [append_only("tag_append_only")]


class LifeState(Body):
    """Alive, standing dead, fallen, stump, resprout, removed or not found."""

    state = models.CharField(max_length=15, choices=words.LIFE_STATES)

    class Meta:
        triggers = [append_only("life_append_only")]


BODIES: dict[str, type[Body]] = {
    "look": Look,
    "determination": Determination,
    "measurement": Measurement,
    "condition": ConditionScore,
    "defect": Defect,
    "risk": RiskSheet,
    "sign": Sign,
    "photo": Photo,
    "voucher": Voucher,
    "note": Note,
    "tag": Tag,
    "life": LifeState,
}
