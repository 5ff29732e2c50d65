"""The demo accounts."""

from __future__ import annotations

from dataclasses import dataclass

from stillpage.people.models import Role

PASSWORD = "still-water-14"  # noqa: S105 - it is printed for everybody who starts the demo


@dataclass(frozen=True)
class Account:
    """A demo account; ``says`` describes it in the list that `./start` prints."""

    username: str
    name: str
    roles: tuple[Role, ...]
    says: str


ACCOUNTS = (
    Account("wren", "Wren Halloway", (Role.AUTHOR,), "author"),
    Account("tobias", "Tobias Marl", (Role.AUTHOR,), "a second author"),
    Account("odile", "Odile Brackwater", (Role.APPROVER,), "approver"),
    Account("piet", "Piet Sandeman", (Role.KEEPER,), "library keeper"),
    Account("imre", "Imre Coldharbour", (Role.DESIGNER,), "site designer"),
    Account("maud", "Maud Tillerson", (Role.ADMINISTRATOR,), "administrator"),
    Account("fen", "Fen Osier", (Role.READER,), "reader (a trustee)"),
)
