"""Turns errors into answers. The only place that does."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import ObjectDoesNotExist
from django.db import InterfaceError, OperationalError
from django.http import Http404
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import exception_handler, set_rollback

from config.error_pages import AWAY, BROKEN, NOT_FOUND
from config.errors import DomainError
from jubark_core.errors import FloraError, InputError, shown

logger = logging.getLogger(__name__)


def answer(error: Exception, context: dict[str, Any]) -> Response | None:
    """One shape for every refusal: code, message, and where it applies field, value, allowed."""
    if isinstance(error, InputError):
        set_rollback()
        return Response(error.told(), status=400)
    if isinstance(error, FloraError):
        set_rollback()
        return Response({"code": "bad_input", "message": str(error)}, status=400)
    if isinstance(error, DomainError):
        set_rollback()
        return Response({"code": error.code, "message": error.message, **error.details}, status=error.status)
    if isinstance(error, ObjectDoesNotExist | Http404):  # unknown and foreign look the same
        set_rollback()
        return Response(NOT_FOUND, status=404)
    if isinstance(error, OperationalError | InterfaceError):
        return Response({"code": "database_away", "message": AWAY}, status=503)
    if isinstance(error, RecursionError):
        set_rollback()
        return Response({"code": "bad_input", "message": "body: nested too deep"}, status=400)
    response = exception_handler(error, context)
    if response is None:
        set_rollback()
        logger.error("%s failed", context["request"].path, exc_info=error)
        return Response({"code": "server_error", "message": BROKEN}, status=500)
    told = {"code": _code(error), "message": _message(response.data)}
    if isinstance(error, exceptions.ValidationError):
        place, allowed = _first(response.data)
        value = _at(context["request"].data, place)
        field = (
            "".join(f"[{key}]" if isinstance(key, int) else f".{key}" for key in place).lstrip(".") or "body"
        )
        message = f"{field}: {shown(value)} is not allowed; {allowed}"
        told |= {
            "message": message,
            "field": field,
            "value": shown(value),
            "allowed": allowed,
            "fields": response.data,
        }
    elif isinstance(error, exceptions.ParseError):
        told |= {
            "field": "body",
            "value": "what was sent",
            "allowed": "JSON (RFC 8259) as the API description has it",
        }
    response.data = told
    return response


def _first(errors: Any) -> tuple[list[str | int], str]:
    """(place, what is said) of the first error in the framework's nested answer."""
    if isinstance(errors, dict):
        for key, inner in errors.items():
            place, allowed = _first(inner)
            # an index is a number where a list of things is checked, also in the framework's newer shape
            own = [int(key) if str(key).isdigit() else key] if key != "non_field_errors" else []
            return [*own, *place], allowed
    if isinstance(errors, list):
        for i, inner in enumerate(errors):
            if isinstance(inner, dict | list) and inner:
                place, allowed = _first(inner)
                return [i, *place], allowed
            if inner:
                return [], str(inner)
    return [], str(errors)


def _at(data: Any, place: list[str | int]) -> Any:
    """What stood at a place of the request; 'nothing' where it has none."""
    for key in place:
        try:
            data = data[key]
        except (KeyError, IndexError, TypeError):
            return "nothing"
    return data


def _code(error: Exception) -> str:
    if isinstance(error, exceptions.NotAuthenticated | exceptions.AuthenticationFailed):
        return "sign_in"
    if isinstance(error, exceptions.ValidationError | exceptions.ParseError):
        return "bad_input"
    return str(getattr(error, "default_code", "refused"))


def _message(data: Any) -> str:
    """The first message, with the field it belongs to."""
    if isinstance(data, dict):
        if "detail" in data:
            return str(data["detail"])
        for field, value in data.items():
            inner = _message(value)
            return inner if field == "non_field_errors" else f"{field}: {inner}"
    if isinstance(data, list) and data:
        return _message(data[0])
    return str(data)
