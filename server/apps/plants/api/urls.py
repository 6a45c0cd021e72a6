"""Addresses of the plants app."""

from django.urls import path

from apps.plants.api.size_views import FromSizeView, KnownFiguresView
from apps.plants.api.views import (
    BlockCarbonView,
    BlockPlantsView,
    BlockSummaryView,
    ChangesView,
    InventoryView,
    MergeView,
    OutboxView,
    PhotoView,
    PlantsByTaxonView,
    PlantView,
)

urlpatterns = [
    path("inventory/", InventoryView.as_view(), name="inventory"),
    path("blocks/<uuid:block_id>/plants/", BlockPlantsView.as_view(), name="block-plants"),
    path("blocks/<uuid:block_id>/summary/", BlockSummaryView.as_view(), name="block-summary"),
    path("blocks/<uuid:block_id>/carbon/", BlockCarbonView.as_view(), name="block-carbon"),
    path("plants/<uuid:plant_id>/", PlantView.as_view(), name="plant"),
    path("plants/<uuid:plant_id>/merge/", MergeView.as_view(), name="plant-merge"),
    path("outbox/", OutboxView.as_view(), name="outbox"),
    path("changes/", ChangesView.as_view(), name="changes"),
    path("photos/<uuid:photo_id>/", PhotoView.as_view(), name="photo"),
    path("plants/<uuid:plant_id>/from-size/", FromSizeView.as_view(), name="plant-from-size"),
    path("plants/<uuid:plant_id>/known-figures/", KnownFiguresView.as_view(), name="plant-known-figures"),
    path("plants/by-taxon/", PlantsByTaxonView.as_view(), name="plants-by-taxon"),
]
