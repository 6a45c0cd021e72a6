"""What services of people refuse."""

from __future__ import annotations

from config.errors import DomainError


class LastOwner(DomainError):
    """An organisation needs an owner who can come in."""

    code = "last_owner"
    status = 409

    def __init__(self) -> None:
        super().__init__(
            "This is the last owner whose access has no end. Make another member owner first: without one "
            "nobody could bring people in."
        )


class LinkUnusable(DomainError):
    """A link that was used, withdrawn or has expired; why is said to who holds it."""

    code = "link_unusable"
    status = 410


class WrongPassword(DomainError):
    """The password that has to be given for an act is not the member's."""

    code = "wrong_password"
    status = 403

    def __init__(self) -> None:
        super().__init__("Wrong password. Nothing was changed.")


class AccessEnded(DomainError):
    """Name and password are right, but the access has ended."""

    code = "access_ended"
    status = 403


class AlreadyErased(DomainError):
    """The contact was erased before."""

    code = "already_erased"
    status = 409

    def __init__(self) -> None:
        super().__init__("This contact was erased; it holds nothing that could be changed.")
