"""Addresses of the inspections app."""

from django.urls import path

from apps.inspections.api import views

urlpatterns = [
    path("sites/<uuid:site_id>/targets/", views.SiteTargetsView.as_view(), name="site-targets"),
    path("sites/<uuid:site_id>/targets.geojson", views.TargetsFileView.as_view(), name="site-targets-file"),
    path("targets/<uuid:target_id>/", views.TargetView.as_view(), name="target"),
    path("sites/<uuid:site_id>/regime/", views.RegimeView.as_view(), name="site-regime"),
    path("sites/<uuid:site_id>/coverage/", views.CoverageView.as_view(), name="site-coverage"),
    path("sites/<uuid:site_id>/reports/", views.SiteReportsView.as_view(), name="site-reports"),
    path("reports/<uuid:report_id>/", views.ReportView.as_view(), name="report"),
    path("reports/<uuid:report_id>/report.pdf", views.ReportPdfView.as_view(), name="report-pdf"),
    path("blocks/<uuid:block_id>/storm/", views.StormView.as_view(), name="block-storm"),
    path("sites/<uuid:site_id>/day/", views.DayView.as_view(), name="site-day"),
]
