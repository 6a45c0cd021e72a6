"""Every address of the application."""

from django.urls import include, path, re_path
from drf_spectacular.views import SpectacularAPIView

from config.error_pages import app_outdated
from config.health import health
from config.shell import shell

handler400 = "config.error_pages.bad_request"
handler404 = "config.error_pages.not_found"
handler500 = "config.error_pages.broken"

# What an app of the first version asks for. Its outbox, photographs and sign-in never moved.
MOVED = (
    r"^api/(?:(?:grounds|ledger|naming|size|condition)/|blocks/[^/]+/(?:plan|season|month-sheet)/$"
    r"|core/(?:not-told-from|names|drawings|plates/.*|species/.+)/$)"
)

urlpatterns = [
    re_path(MOVED, app_outdated, name="moved"),
    path("api/health/", health, name="health"),
    path("api/", include("apps.installation.api.urls")),
    path("api/", include("apps.organisations.api.urls")),
    path("api/", include("apps.sites.api.urls")),
    path("api/", include("apps.plants.api.urls")),
    path("api/", include("apps.inspections.api.urls")),
    path("api/", include("apps.health.api.urls")),
    path("api/", include("apps.work.api.urls")),
    path("api/", include("apps.core_api.api.urls")),
    path("api/", include("apps.exchange.api.urls")),
    path("api/schema/", SpectacularAPIView.as_view(), name="schema"),
    re_path(r"^(?!api/|static/|assets/).*$", shell, name="shell"),
]
