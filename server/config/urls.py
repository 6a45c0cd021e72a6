"""Every address of the application."""

from django.urls import include, path, re_path
from drf_spectacular.views import SpectacularAPIView

from config.health import health
from config.shell import shell

handler400 = "config.error_pages.bad_request"
handler404 = "config.error_pages.not_found"
handler500 = "config.error_pages.broken"

urlpatterns = [
    path("api/health/", health, name="health"),
    path("api/", include("apps.crews.api.urls")),
    path("api/", include("apps.ground.api.urls")),
    path("api/", include("apps.stems.api.urls")),
    path("api/", include("apps.naming.api.urls")),
    path("api/", include("apps.exchange.api.urls")),
    path("api/schema/", SpectacularAPIView.as_view(), name="schema"),
    re_path(r"^(?!api/|static/|assets/).*$", shell, name="shell"),
]
