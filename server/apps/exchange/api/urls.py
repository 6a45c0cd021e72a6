"""Addresses of the exchange app."""

from django.urls import path

from apps.exchange.api.views import CsvView, GeojsonView, ImportsView, ImportView

urlpatterns = [
    path("blocks/<uuid:block_id>/export.csv", CsvView.as_view(), name="block-export-csv"),
    path("blocks/<uuid:block_id>/export.geojson", GeojsonView.as_view(), name="block-export-geojson"),
    path("imports/", ImportsView.as_view(), name="imports"),
    path("imports/<uuid:batch_id>/", ImportView.as_view(), name="import"),
]
