"""Addresses of the health app."""

from django.urls import path

from apps.health.api import views

urlpatterns = [
    path("sites/<uuid:site_id>/health/", views.SiteHealthView.as_view(), name="site-health"),
    path("sites/<uuid:site_id>/spread/<slug:cause>/", views.SpreadView.as_view(), name="site-spread"),
    path("sites/<uuid:site_id>/station/", views.StationView.as_view(), name="site-station"),
    path("blocks/<uuid:block_id>/biosecurity/", views.BiosecurityView.as_view(), name="block-biosecurity"),
    path("blocks/<uuid:block_id>/holds/", views.HoldsView.as_view(), name="block-holds"),
]
