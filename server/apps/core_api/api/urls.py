"""Addresses of the naming app."""

from django.urls import path

from apps.core_api.api import views

urlpatterns = [
    path("core/name/", views.NameView.as_view(), name="core-name"),
    path("core/not-separated-from/", views.NotSeparatedFromView.as_view(), name="core-not-separated-from"),
    path("core/upgrade/", views.UpgradeView.as_view(), name="core-upgrade"),
    path("core/names/", views.NamesView.as_view(), name="core-names"),
    path("core/vocabulary/", views.VocabularyView.as_view(), name="core-vocabulary"),
    path("core/drawings/", views.DrawingsView.as_view(), name="core-drawings"),
    path("core/plates/<slug:taxon>/<slug:part>/", views.PlateView.as_view(), name="core-plate"),
    path("core/species/", views.SpeciesListView.as_view(), name="core-species-list"),
    path(
        "core/species/<slug:taxon>/season/",
        views.SpeciesSeasonView.as_view(),
        name="core-species-season",
    ),
    path("core/species/<slug:taxon>/", views.SpeciesView.as_view(), name="core-species"),
    path("core/side-by-side/", views.SideBySideView.as_view(), name="core-side-by-side"),
    path("blocks/<uuid:block_id>/season/", views.SeasonView.as_view(), name="block-season"),
    path("blocks/<uuid:block_id>/month-sheet/", views.MonthSheetView.as_view(), name="block-month-sheet"),
]
