"""What the records refuse, each with its code."""

from config.errors import DomainError


class IdReused(DomainError):
    """The id came before with another body. Both are kept; nothing is overwritten."""

    code = "id_reused"
    status = 409

    def __init__(self, item_id: object) -> None:
        super().__init__(
            f"The id {item_id} came before with another content. Both are kept; send this one under a "
            "new id.",
            field="id",
            value=str(item_id),
        )


class BadEntry(DomainError):
    """An entry that cannot be stored; names entry and field."""

    code = "bad_entry"


class WaitingOn(Exception):
    """The item needs one that has not arrived yet: it waits, it is not refused."""

    def __init__(self, on: object) -> None:
        self.on = str(on)
        super().__init__(self.on)
