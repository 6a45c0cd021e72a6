"""The root of the server's errors: each has a stable code and an HTTP status."""


class DomainError(Exception):
    """Something a service refuses. `details` names field, value and what is allowed, where there is
    a field.
    """

    code = "refused"
    status = 400

    def __init__(self, message: str, **details: object) -> None:
        self.message = message
        self.details = details
        super().__init__(message)


class NotAllowed(DomainError):
    """The member's role does not reach."""

    code = "not_allowed"
    status = 403


class BadInput(DomainError):
    """A field that cannot be used."""

    code = "bad_input"

    def __init__(self, field: str, value: object, allowed: str) -> None:
        from jubark_core.errors import shown

        super().__init__(
            f"{field}: {shown(value)} is not allowed; {allowed}",
            field=field,
            value=shown(value),
            allowed=allowed,
        )


class TooLarge(DomainError):
    """More than one request may carry."""

    code = "too_large"
    status = 413
