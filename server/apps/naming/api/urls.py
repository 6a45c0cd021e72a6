"""Addresses of the naming app."""

from django.urls import path

from apps.naming.api.views import DrawingsView, NamesView, NameView, PlateView, PortraitView, SeasonView, SideBySideView, VocabularyView

urlpatterns = [
    path("naming/name/", NameView.as_view(), name="naming-name"),
    path("naming/names/", NamesView.as_view(), name="naming-names"),
    path("naming/vocabulary/", VocabularyView.as_view(), name="naming-vocabulary"),
    path("naming/drawings/", DrawingsView.as_view(), name="naming-drawings"),
    path("naming/plates/<slug:taxon>/<slug:part>/", PlateView.as_view(), name="naming-plate"),
    path("naming/portraits/<slug:taxon>/", PortraitView.as_view(), name="naming-portrait"),
    path("naming/side-by-side/", SideBySideView.as_view(), name="naming-side-by-side"),
    path("blocks/<uuid:block_id>/season/", SeasonView.as_view(), name="block-season"),
]
