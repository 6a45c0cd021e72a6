"""Addresses of the work app."""

from django.urls import path

from apps.work.api import views

urlpatterns = [path("sites/<uuid:site_id>/work/", views.SiteWorkView.as_view(), name="site-work")]
