"""What the ledger can be narrowed by."""

import django_filters
from django.db.models import Q, QuerySet

from apps.stems.models import Current
from jubark_core.flora.load import shipped_flora


class LedgerFilter(django_filters.FilterSet):  # type: ignore[misc]
    """Block, words in tag or name, taxon with everything below it, size, condition, life, sign, clash."""

    block = django_filters.UUIDFilter(field_name="block_id")
    words = django_filters.CharFilter(method="by_words")
    taxon = django_filters.CharFilter(method="by_taxon")
    dbh_from = django_filters.NumberFilter(field_name="dbh_cm", lookup_expr="gte")
    dbh_to = django_filters.NumberFilter(field_name="dbh_cm", lookup_expr="lte")
    condition = django_filters.CharFilter()
    life = django_filters.CharFilter()
    sign = django_filters.CharFilter(method="by_sign")
    tag_clash = django_filters.BooleanFilter()
    unnamed = django_filters.BooleanFilter(method="by_unnamed")

    class Meta:
        model = Current
        fields: list[str] = []

    def by_words(self, rows: QuerySet[Current], name: str, value: str) -> QuerySet[Current]:
        return rows.filter(Q(tag__istartswith=value) | Q(name__icontains=value))

    def by_taxon(self, rows: QuerySet[Current], name: str, value: str) -> QuerySet[Current]:
        flora = shipped_flora()
        return rows.filter(taxon__in=[t for t in flora.taxa if value in flora.ancestors(t)])

    def by_sign(self, rows: QuerySet[Current], name: str, value: str) -> QuerySet[Current]:
        return rows.filter(signs__contains=[value])

    def by_unnamed(self, rows: QuerySet[Current], name: str, value: bool) -> QuerySet[Current]:
        return rows.filter(name="") if value else rows.exclude(name="")
