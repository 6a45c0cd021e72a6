"""Addresses of the naming app."""

from django.urls import path

from apps.naming.api.views import NamesView, NameView, SeasonView, VocabularyView

urlpatterns = [
    path("naming/name/", NameView.as_view(), name="naming-name"),
    path("naming/names/", NamesView.as_view(), name="naming-names"),
    path("naming/vocabulary/", VocabularyView.as_view(), name="naming-vocabulary"),
    path("blocks/<uuid:block_id>/season/", SeasonView.as_view(), name="block-season"),
]
