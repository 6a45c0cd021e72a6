"""Whether this process can do its work: asked by the launcher, by a proxy, by whoever watches."""

from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe

from config.error_pages import AWAY, refusal


@require_safe
@never_cache
def health(request: HttpRequest) -> HttpResponse:
    """200 when the database answers a query, 503 when it does not."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        return refusal(503, "database_away", AWAY)
    return JsonResponse({"status": "ok"})
