"""The naming contract for the API description; the core alone reads and judges the case."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from jubark_core.records.typed_schema import REF


class BitsSerializer(serializers.Serializer[dict[str, Any]]):
    """What one look gives."""

    observation = serializers.IntegerField()
    character = serializers.CharField()
    bits = serializers.FloatField()


class CandidateSerializer(serializers.Serializer[dict[str, Any]]):
    """A name the plant may bear. `for` and `against` are relative to `rival`."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    common = serializers.CharField()
    rank = serializers.CharField()
    probability = serializers.FloatField()
    rival = serializers.CharField()
    both_have = serializers.ListField(child=serializers.IntegerField())

    def get_fields(self) -> dict[str, Any]:
        return {
            **super().get_fields(),
            "for": BitsSerializer(many=True),
            "against": BitsSerializer(many=True),
        }


class SupportedSerializer(serializers.Serializer[dict[str, Any]]):
    """The lowest name the looks support."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    common = serializers.CharField()
    rank = serializers.CharField()
    probability = serializers.FloatField()
    organs = serializers.ListField(child=serializers.CharField())
    one_organ = serializers.BooleanField()
    stop_at = serializers.CharField(required=False)
    would_be = serializers.CharField(required=False)


class OutcomeSerializer(serializers.Serializer[dict[str, Any]]):
    """What an answer would do."""

    state = serializers.CharField()
    probability = serializers.FloatField()
    leader = serializers.CharField()
    leader_probability = serializers.FloatField()


class NextLookSerializer(serializers.Serializer[dict[str, Any]]):
    """A look worth making."""

    character = serializers.CharField()
    gain_bits = serializers.FloatField()
    effort_s = serializers.FloatField()
    how = serializers.CharField()
    outcomes = OutcomeSerializer(many=True)


class WithheldSerializer(serializers.Serializer[dict[str, Any]]):
    """A look that would harm."""

    character = serializers.CharField()
    why = serializers.CharField()


class RuledOutSerializer(serializers.Serializer[dict[str, Any]]):
    """A genus one look ruled out."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    observation = serializers.IntegerField()
    bits = serializers.FloatField()
    only_listed = serializers.BooleanField()


class RivalSerializer(serializers.Serializer[dict[str, Any]]):
    """A rival not yet separated, and what would."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    probability = serializers.FloatField()
    looks = serializers.ListField(child=serializers.CharField())


class ClaimedSerializer(serializers.Serializer[dict[str, Any]]):
    """A case of the naming contract and the taxon the plant is held to be."""

    case = serializers.DictField()
    taxon = serializers.CharField(max_length=80)


class ContradictionSerializer(serializers.Serializer[dict[str, Any]]):
    """Looks that do not fit."""

    observations = serializers.ListField(child=serializers.IntegerField())
    why = serializers.CharField()


class ComeBackSerializer(serializers.Serializer[dict[str, Any]]):
    """When a separating character shows."""

    character = serializers.CharField()
    to = serializers.DateField()
    separates = serializers.ListField(child=serializers.CharField())

    def get_fields(self) -> dict[str, Any]:
        return {**super().get_fields(), "from": serializers.DateField()}


class CautionSerializer(serializers.Serializer[dict[str, Any]]):
    """A usual caution."""

    taxon = serializers.CharField()
    text = serializers.CharField()


class FitSerializer(serializers.Serializer[dict[str, Any]]):
    """How well the leader's own description would produce these looks."""

    percentile = serializers.FloatField(allow_null=True)
    fits = serializers.BooleanField(allow_null=True)


class NamedSerializer(serializers.Serializer[dict[str, Any]]):
    """A taxon as it is told."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    common = serializers.CharField()
    rank = serializers.CharField()


class EitherSerializer(serializers.Serializer[dict[str, Any]]):
    """Two taxa that hold the threshold together."""

    taxa = NamedSerializer(many=True)
    probability = serializers.FloatField()
    why = serializers.CharField()


class RangeSerializer(serializers.Serializer[dict[str, Any]]):
    """A rival's central 90 % of single values."""

    taxon = serializers.CharField()
    probability = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class SettlesSerializer(serializers.Serializer[dict[str, Any]]):
    """What more leaves would do between two rivals; `more` is null where they will not settle it."""

    a = serializers.CharField()
    b = serializers.CharField()
    more = serializers.IntegerField(allow_null=True)
    says = serializers.CharField()


class SampleSerializer(serializers.Serializer[dict[str, Any]]):
    """A count or measure against the ranges of the rivals."""

    observation = serializers.IntegerField()
    character = serializers.CharField()
    n = serializers.IntegerField()
    mean = serializers.FloatField()
    sd = serializers.FloatField(allow_null=True)
    rivals = RangeSerializer(many=True)
    settles = SettlesSerializer(allow_null=True)


class LeadingSerializer(serializers.Serializer[dict[str, Any]]):
    """Who would lead."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    probability = serializers.FloatField()


class ByOriginSerializer(serializers.Serializer[dict[str, Any]]):
    """The leader had the plant been wild, and had it been planted."""

    wild = LeadingSerializer()
    planted = LeadingSerializer()
    differ = serializers.BooleanField()


class SeasonRuleSerializer(serializers.Serializer[dict[str, Any]]):
    """By what rule the season was set."""

    rule = serializers.CharField()
    days = serializers.FloatField()
    note = serializers.CharField(allow_blank=True)


class AnswerToCaseSerializer(serializers.Serializer[dict[str, Any]]):
    """The answer of the naming contract."""

    candidates = CandidateSerializer(many=True)
    rest = serializers.FloatField()
    ruled_out = RuledOutSerializer(many=True)
    supported = SupportedSerializer(allow_null=True)
    either = EitherSerializer(allow_null=True)
    not_yet_told_from = RivalSerializer(many=True)
    next_looks = NextLookSerializer(many=True)
    withheld = WithheldSerializer(many=True)
    live_pruned = serializers.FloatField()
    samples = SampleSerializer(many=True)
    contradictions = ContradictionSerializer(many=True)
    fit = FitSerializer()
    come_back = ComeBackSerializer(many=True)
    cautions = CautionSerializer(many=True)
    prior = serializers.ListField(child=serializers.DictField())
    by_origin = ByOriginSerializer(allow_null=True)
    season = SeasonRuleSerializer()
    flora = serializers.CharField()
    engine = serializers.CharField()


class NameFoundSerializer(serializers.Serializer[dict[str, Any]]):
    """A name that fits what was typed."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    common = serializers.CharField()
    rank = serializers.CharField()
    matched = serializers.CharField()
    how = serializers.CharField()
    shared = serializers.BooleanField(
        help_text="what was typed is a common name in more than one genus, and of this taxon too"
    )


class WordSerializer(serializers.Serializer[dict[str, Any]]):
    """A word of a fixed list with its label."""

    id = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    help = serializers.CharField(required=False)  # type: ignore[assignment]


class CharacterSerializer(serializers.Serializer[dict[str, Any]]):
    """A character of the vocabulary, as the sheets need it."""

    id = serializers.CharField()
    organ = serializers.CharField()
    kind = serializers.ChoiceField(choices=["one", "many", "count", "measure"])
    label = serializers.CharField()  # type: ignore[assignment]
    term = serializers.CharField()
    how = serializers.CharField()
    mistake = serializers.CharField()
    states = WordSerializer(many=True)
    unit = serializers.CharField(allow_blank=True)
    range = serializers.ListField(child=serializers.FloatField())
    rests_on = serializers.ListField(
        child=serializers.CharField(), help_text="characters that decide whether this one makes sense"
    )
    wounds = serializers.BooleanField()
    touch = serializers.BooleanField()
    tools = serializers.ListField(child=serializers.CharField())
    effort_s = serializers.FloatField()


class TaxonWordSerializer(serializers.Serializer[dict[str, Any]]):
    """A node of the tree of taxa."""

    id = serializers.CharField()
    name = serializers.CharField()
    common = serializers.CharField(allow_blank=True)
    rank = serializers.CharField()
    parent = serializers.CharField(allow_null=True)  # type: ignore[assignment]


class StemFormSerializer(WordSerializer):
    """A form of the stem and where it is measured; H in `help` is breast height by the site's
    convention.
    """

    several = serializers.BooleanField()
    quantity = serializers.CharField()
    method = serializers.CharField(allow_blank=True)
    height = serializers.CharField()


class ConditionPartSerializer(serializers.Serializer[dict[str, Any]]):
    """A part that is graded, with what earns each grade, worst first."""

    id = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    grades = serializers.ListField(child=serializers.CharField())
    leafless = serializers.CharField(allow_blank=True)


class DefectWordSerializer(serializers.Serializer[dict[str, Any]]):
    """A defect, where it is looked for, and what its extent measures."""

    id = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    parts = serializers.ListField(child=serializers.CharField())
    extent = serializers.CharField()


@extend_schema_field({"$ref": REF + "RecordsShown"})
class RecordsField(serializers.DictField):
    """The description of every record."""


@extend_schema_field({"type": "array", "items": {"$ref": REF + "TermShown"}})
class TermsField(serializers.ListField):
    """The glossary."""


class VocabularySerializer(serializers.Serializer[dict[str, Any]]):
    """Everything the sheets need to work offline."""

    version = serializers.CharField()
    organs = WordSerializer(many=True)
    characters = CharacterSerializer(many=True)
    taxa = TaxonWordSerializer(many=True)
    stages = WordSerializer(many=True)
    settings = WordSerializer(many=True)
    signs = WordSerializer(many=True)
    conditions = WordSerializer(many=True)
    stem_forms = StemFormSerializer(many=True)
    condition_parts = ConditionPartSerializer(many=True)
    defects = DefectWordSerializer(many=True)
    judged = serializers.DictField(child=WordSerializer(many=True))
    records = RecordsField()
    terms = TermsField()


class ShowingSerializer(serializers.Serializer[dict[str, Any]]):
    """Share of the flora (weighted by the block's own stems where given) that shows an organ, by
    half-month.
    """

    organ = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    now = serializers.FloatField()
    year = serializers.ListField(child=serializers.FloatField())
    opens = serializers.DateField(allow_null=True)


class DrawingsSerializer(serializers.Serializer[dict[str, Any]]):
    """SVG by character and state; states that cannot be drawn are left out."""

    version = serializers.CharField()
    drawings = serializers.DictField(child=serializers.DictField(child=serializers.CharField()))


class SaidSerializer(serializers.Serializer[dict[str, Any]]):
    """What a taxon shows of a character, in words."""

    character = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    says = serializers.CharField()


class OrganSaidSerializer(serializers.Serializer[dict[str, Any]]):
    """What a taxon shows of an organ."""

    organ = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    rows = SaidSerializer(many=True)


class PartedSerializer(serializers.Serializer[dict[str, Any]]):
    """A character that parts two look-alikes: this one's words beside the other's."""

    character = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    this = serializers.CharField()
    other = serializers.CharField()


class LookAlikeSerializer(serializers.Serializer[dict[str, Any]]):
    """A taxon it is taken for."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    common = serializers.CharField(allow_blank=True)
    rows = PartedSerializer(many=True)


class EventSerializer(serializers.Serializer[dict[str, Any]]):
    """An event of the year, as month and day at the taxon's reference place."""

    event = serializers.CharField()
    dates = serializers.CharField()


class StopAtSerializer(serializers.Serializer[dict[str, Any]]):
    """Where naming ends in the field."""

    rank = serializers.CharField()
    why = serializers.CharField()


class SpeciesSerializer(serializers.Serializer[dict[str, Any]]):
    """A taxon as it is told."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    rank = serializers.CharField()
    line = serializers.ListField(child=serializers.CharField())
    common = serializers.ListField(child=serializers.CharField())
    synonyms = serializers.ListField(child=serializers.CharField())
    cautions = serializers.ListField(child=serializers.CharField())
    uses = serializers.CharField(allow_blank=True)
    pests = serializers.ListField(child=serializers.CharField())
    winter_note = serializers.CharField(allow_blank=True)
    local_note = serializers.CharField(allow_blank=True)
    native = serializers.ListField(child=serializers.CharField())
    introduced = serializers.ListField(child=serializers.CharField())
    invasive = serializers.ListField(child=serializers.CharField())
    height_m = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    spread_m = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    longevity_y = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    hardiness = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    protected_note = serializers.CharField(allow_blank=True)
    stop_at = StopAtSerializer(allow_null=True)
    season = EventSerializer(many=True)
    organs = OrganSaidSerializer(many=True)
    look_alikes = LookAlikeSerializer(many=True)


class ListedSerializer(serializers.Serializer[dict[str, Any]]):
    """A taxon in the list of portraits. `plants`: how many stand on the organisation's sites."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    common = serializers.CharField(allow_blank=True)
    form = serializers.CharField(allow_blank=True)
    evergreen = serializers.BooleanField()
    shows = serializers.ListField(child=serializers.CharField())
    native = serializers.ListField(child=serializers.CharField())
    introduced = serializers.ListField(child=serializers.CharField())
    invasive = serializers.ListField(child=serializers.CharField())
    plants = serializers.IntegerField()


class LaneSerializer(serializers.Serializer[dict[str, Any]]):
    """An organ through 24 half-months, 0 to 1."""

    organ = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    year = serializers.ListField(child=serializers.FloatField())


class ToldSerializer(serializers.Serializer[dict[str, Any]]):
    """A look-alike and the looks that part the two that month."""

    name = serializers.CharField()
    by = serializers.ListField(child=serializers.CharField())


class MonthRowSerializer(serializers.Serializer[dict[str, Any]]):
    """A taxon of the site in a month."""

    taxon = serializers.CharField()
    name = serializers.CharField()
    common = serializers.CharField(allow_blank=True)
    stems = serializers.IntegerField()
    shows = serializers.ListField(child=serializers.CharField())
    lanes = LaneSerializer(many=True)
    told = ToldSerializer(many=True)


class DifferenceSerializer(serializers.Serializer[dict[str, Any]]):
    """A character in which the taxa differ; `says` has one entry per taxon."""

    character = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    says = serializers.ListField(child=serializers.CharField())
    where = serializers.ChoiceField(choices=["plant", "ground", "later"])

    def get_fields(self) -> dict[str, Any]:
        return {**super().get_fields(), "from": serializers.DateField(allow_null=True)}


class SideBySideSerializer(serializers.Serializer[dict[str, Any]]):
    """Two to four taxa and what differs."""

    taxa = NamedSerializer(many=True)
    rows = DifferenceSerializer(many=True)
