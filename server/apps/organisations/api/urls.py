"""Addresses of the organisations app."""

from django.urls import path

from apps.organisations.api.views import SessionView

urlpatterns = [path("session/", SessionView.as_view(), name="session")]
