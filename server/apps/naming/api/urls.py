"""Addresses of the naming app."""

from django.urls import path

from apps.naming.api import views

urlpatterns = [
    path("naming/name/", views.NameView.as_view(), name="naming-name"),
    path("naming/not-told-from/", views.NotToldFromView.as_view(), name="naming-not-told-from"),
    path("naming/names/", views.NamesView.as_view(), name="naming-names"),
    path("naming/vocabulary/", views.VocabularyView.as_view(), name="naming-vocabulary"),
    path("naming/drawings/", views.DrawingsView.as_view(), name="naming-drawings"),
    path("naming/plates/<slug:taxon>/<slug:part>/", views.PlateView.as_view(), name="naming-plate"),
    path("naming/portraits/", views.PortraitsView.as_view(), name="naming-portraits"),
    path(
        "naming/portraits/<slug:taxon>/season/",
        views.PortraitSeasonView.as_view(),
        name="naming-portrait-season",
    ),
    path("naming/portraits/<slug:taxon>/", views.PortraitView.as_view(), name="naming-portrait"),
    path("naming/side-by-side/", views.SideBySideView.as_view(), name="naming-side-by-side"),
    path("blocks/<uuid:block_id>/season/", views.SeasonView.as_view(), name="block-season"),
    path("blocks/<uuid:block_id>/month-sheet/", views.MonthSheetView.as_view(), name="block-month-sheet"),
]
