"""The contract of places as a type: where something is, as far as the season asks."""

from __future__ import annotations

from typing import Annotated, NotRequired, TypedDict

from jubark_core.records.typed_schema import Between


class PlaceIn(TypedDict):
    """Where it is: it dates the seasons."""

    lat: Annotated[float, Between(-90, 90)]
    lon: Annotated[float, Between(-180, 180)]
    elevation_m: NotRequired[Annotated[float | None, Between(-430, 6000)]]
