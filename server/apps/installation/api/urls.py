"""Addresses of the installation."""

from django.urls import path

from apps.installation.api.views import FirstRunView, ReadyView

urlpatterns = [
    path("ready/", ReadyView.as_view(), name="ready"),
    path("first-run/", FirstRunView.as_view(), name="first-run"),
]
