"""Addresses of the crews app."""

from django.urls import path

from apps.crews.api.views import SessionView

urlpatterns = [path("session/", SessionView.as_view(), name="session")]
