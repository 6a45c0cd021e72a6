"""The one page: the built front end's index.html with the nonce of the content security policy put in."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


@require_safe
@never_cache
@ensure_csrf_cookie
def shell(request: HttpRequest) -> HttpResponse:
    """Every address that is not the API's shows the same page; the front end reads the address."""
    return render(request, "index.html")
