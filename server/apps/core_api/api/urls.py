"""An address for every operation of the core."""

from django.urls import path

from apps.core_api.api.flora import FloraView
from apps.core_api.api.views import operation_view
from jubark_core.door import OPERATIONS

urlpatterns = [
    path("core/flora/", FloraView.as_view(), name="core-flora"),
    *(path(f"core/{name}/", operation_view(name).as_view(), name=f"core-{name}") for name in OPERATIONS),
]
