"""What the inventory can be narrowed by."""

import django_filters
from django import forms
from django.db.models import Exists, OuterRef, Q, QuerySet

from apps.plants.models import Current, Entry
from jubark_core.checks import require_one_of
from jubark_core.flora.load import shipped_flora
from jubark_core.records.file import FILE
from jubark_core.records.inspected import INSPECTED
from jubark_core.records.words import RATINGS
from jubark_core.risk.worksheet import order


class DiameterFilter(django_filters.NumberFilter):  # type: ignore[misc,name-defined]
    """A bound in cm: a finite number in the range diameters have."""

    field_class = forms.FloatField

    def __init__(self, lookup: str) -> None:
        super().__init__(field_name="dbh_cm", lookup_expr=lookup, min_value=0, max_value=10_000)

    def get_max_validator(self) -> None:
        """None: the field's own bounds say it."""


_COMPLETE, _INCOMPLETE = (Q(risk_order__in=[order(r, whole) for r in RATINGS]) for whole in (True, False))
# Where base or crown was not seen the rating is a least: it answers no filter for that class, but the highest
# class, which nothing can exceed, and every filter that asks for a class or more.
RISKS = {
    "not_assessed": Q(risk_order__isnull=True),
    "incomplete": _INCOMPLETE,
    "rated": _COMPLETE,
    "low": Q(risk_order=order("low", True)),
    "moderate": Q(risk_order=order("moderate", True)),
    "high": Q(risk_order=order("high", True)),
    "extreme": Q(risk_order__gte=order("extreme", True)),
    "high_or_more": Q(risk_order__gte=order("high", True)),
}


class InventoryFilter(django_filters.FilterSet):  # type: ignore[misc,name-defined]
    """Block, words in tag or name, taxon with everything below it, size, condition, life, sign, clash."""

    block = django_filters.UUIDFilter(field_name="block_id")  # type: ignore[no-untyped-call]
    words = django_filters.CharFilter(method="by_words")  # type: ignore[no-untyped-call]
    taxon = django_filters.CharFilter(method="by_taxon")  # type: ignore[no-untyped-call]
    dbh_from = DiameterFilter("gte")
    dbh_to = DiameterFilter("lte")
    condition = django_filters.CharFilter()  # type: ignore[no-untyped-call]
    risk = django_filters.CharFilter(method="by_risk")  # type: ignore[no-untyped-call]
    file = django_filters.CharFilter(method="by_file")  # type: ignore[no-untyped-call]
    life = django_filters.CharFilter()  # type: ignore[no-untyped-call]
    sign = django_filters.CharFilter(method="by_sign")  # type: ignore[no-untyped-call]
    tag_clash = django_filters.BooleanFilter()  # type: ignore[no-untyped-call]
    unnamed = django_filters.BooleanFilter(method="by_unnamed")  # type: ignore[no-untyped-call]

    class Meta:
        model = Current
        fields: list[str] = []

    def by_words(self, rows: QuerySet[Current], name: str, value: str) -> QuerySet[Current]:
        return rows.filter(Q(tag__istartswith=value) | Q(name__icontains=value))

    def by_taxon(self, rows: QuerySet[Current], name: str, value: str) -> QuerySet[Current]:
        flora = shipped_flora()
        return rows.filter(taxon__in=[t for t in flora.taxa if value in flora.ancestors(t)])

    def by_risk(self, rows: QuerySet[Current], name: str, value: str) -> QuerySet[Current]:
        require_one_of("risk", value, RISKS)
        return rows.filter(RISKS[value])

    def by_file(self, rows: QuerySet[Current], name: str, value: str) -> QuerySet[Current]:
        """Plants whose file holds something of a kind that was not withdrawn."""
        require_one_of("file", value, (*INSPECTED, *FILE))
        withdrawn = Entry.objects.filter(retracts=OuterRef("pk"))
        held = Entry.objects.filter(
            ~Exists(withdrawn), plant=OuterRef("plant_id"), kind=value, retracts__isnull=True
        )
        return rows.filter(Exists(held))

    def by_sign(self, rows: QuerySet[Current], name: str, value: str) -> QuerySet[Current]:
        return rows.filter(signs__contains=[value])

    def by_unnamed(self, rows: QuerySet[Current], name: str, value: bool) -> QuerySet[Current]:
        return rows.filter(name="") if value else rows.exclude(name="")
