"""Addresses of the stems app."""

from django.urls import path

from apps.plants.api.size_views import (
    ComputeView,
    FromSizeView,
    PlausibilityView,
    RiskView,
    ScoreView,
    SpaceView,
)
from apps.plants.api.views import (
    BlockPlantsView,
    ChangesView,
    InventoryView,
    OutboxView,
    PhotoView,
    PlantView,
)

urlpatterns = [
    path("inventory/", InventoryView.as_view(), name="inventory"),
    path("blocks/<uuid:block_id>/plants/", BlockPlantsView.as_view(), name="block-plants"),
    path("plants/<uuid:plant_id>/", PlantView.as_view(), name="plant"),
    path("outbox/", OutboxView.as_view(), name="outbox"),
    path("changes/", ChangesView.as_view(), name="changes"),
    path("photos/<uuid:photo_id>/", PhotoView.as_view(), name="photo"),
    path("plants/<uuid:plant_id>/from-size/", FromSizeView.as_view(), name="plant-from-size"),
    path("size/compute/", ComputeView.as_view(), name="size-compute"),
    path("size/plausibility/", PlausibilityView.as_view(), name="size-plausibility"),
    path("size/space/", SpaceView.as_view(), name="size-space"),
    path("condition/score/", ScoreView.as_view(), name="condition-score"),
    path("condition/risk/", RiskView.as_view(), name="condition-risk"),
]
