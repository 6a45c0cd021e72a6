"""Every address of the application."""

from django.urls import include, path, re_path
from drf_spectacular.views import SpectacularAPIView

from config.shell import shell

urlpatterns = [
    path("api/", include("apps.crews.api.urls")),
    path("api/", include("apps.ground.api.urls")),
    path("api/", include("apps.stems.api.urls")),
    path("api/", include("apps.naming.api.urls")),
    path("api/", include("apps.exchange.api.urls")),
    path("api/schema/", SpectacularAPIView.as_view(), name="schema"),
    re_path(r"^(?!api/|static/|assets/).*$", shell, name="shell"),
]
