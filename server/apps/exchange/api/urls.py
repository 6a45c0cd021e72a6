"""Addresses of the exchange app."""

from django.urls import path

from apps.exchange.api.views import ExportView, ImportsView, ImportView

urlpatterns = [
    path("blocks/<uuid:block_id>/export.csv", ExportView.as_view(), {"ending": "csv"}, name="block-export-csv"),
    path("blocks/<uuid:block_id>/export.geojson", ExportView.as_view(), {"ending": "geojson"}, name="block-export-geojson"),
    path("imports/", ImportsView.as_view(), name="imports"),
    path("imports/<uuid:batch_id>/", ImportView.as_view(), name="import"),
]
