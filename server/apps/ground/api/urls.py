"""Addresses of the ground app."""

from django.urls import path

from apps.ground.api.views import BlocksView, BlockView, GroundConventionsView, GroundsView, PlotsView

urlpatterns = [
    path("grounds/", GroundsView.as_view(), name="grounds"),
    path("grounds/<uuid:ground_id>/conventions/", GroundConventionsView.as_view(), name="ground-conventions"),
    path("blocks/", BlocksView.as_view(), name="blocks"),
    path("blocks/<uuid:block_id>/", BlockView.as_view(), name="block"),
    path("blocks/<uuid:block_id>/plots/", PlotsView.as_view(), name="block-plots"),
]
