"""Addresses of the site app."""

from django.urls import path

from apps.sites.api.views import (
    BlocksView,
    BlockView,
    PlotsView,
    SiteBlocksView,
    SiteConventionsView,
    SitesView,
    SiteView,
)

urlpatterns = [
    path("sites/", SitesView.as_view(), name="sites"),
    path("sites/<uuid:site_id>/", SiteView.as_view(), name="site"),
    path("sites/<uuid:site_id>/blocks/", SiteBlocksView.as_view(), name="site-blocks"),
    path("sites/<uuid:site_id>/conventions/", SiteConventionsView.as_view(), name="site-conventions"),
    path("blocks/", BlocksView.as_view(), name="blocks"),
    path("blocks/<uuid:block_id>/", BlockView.as_view(), name="block"),
    path("blocks/<uuid:block_id>/plots/", PlotsView.as_view(), name="block-plots"),
]
