"""Addresses of the ground app."""

from django.urls import path

from apps.ground.api.views import BlocksView, BlockView, GroundsView, PlotsView

urlpatterns = [
    path("grounds/", GroundsView.as_view(), name="grounds"),
    path("blocks/", BlocksView.as_view(), name="blocks"),
    path("blocks/<uuid:block_id>/", BlockView.as_view(), name="block"),
    path("blocks/<uuid:block_id>/plots/", PlotsView.as_view(), name="block-plots"),
]
