"""Where the demo's items stand in the library, and what else is said of them. Some faults are there on purpose."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from .views import VIEWS


@dataclass(frozen=True)
class Shelved:
    """A folder by its path, with tags; ``site`` is the key of the one site that may use what it holds."""

    folder: str
    tags: tuple[str, ...] = ()
    site: str = ""


FOLDERS = {
    "Places": Shelved("Places"),
    "Places/Bridges": Shelved("Places/Bridges", ("bridges",)),
    "Places/Locks": Shelved("Places/Locks", ("locks",)),
    "Places/Village and meadows": Shelved("Places/Village and meadows"),
    "Boats": Shelved("Boats", ("boats",)),
    "People at work": Shelved("People at work", ("volunteers",)),
    "Museum": Shelved("Museum", site="museum"),
    "Papers": Shelved("Papers"),
    "Papers/Minutes": Shelved("Papers/Minutes", ("minutes",)),
}
BY_WORD = {
    "filling": "Museum",
    "fills": "Places/Locks",
    "plan-of": "Museum",
    "minutes": "Papers/Minutes",
    "bridge": "Places/Bridges",
    "lock": "Places/Locks",
    "gates": "Places/Locks",
    "aqueduct": "Places/Bridges",
    "boat": "Boats",
    "moorings": "Boats",
    "wardens": "People at work",
    "work-party": "People at work",
    "dredging": "People at work",
    "village": "Places/Village and meadows",
    "meadow": "Places/Village and meadows",
    "field": "Places/Village and meadows",
    "windlass": "Places/Locks",
    "handbook": "Papers",
    "form": "Papers",
    "newsletter": "Papers",
    "plan": "Papers",
    "assessment": "Papers",
    "terms": "Papers",
    "levels": "Papers",
    "visits": "Papers",
}
"""The first word that a file's name holds says its folder; what holds none stands in no folder."""

SEASONS = {view.name: view.season for view in VIEWS}
VIEW_ALTS = {view.name: view.alt for view in VIEWS}
DECORATIVE = {"the-wide-at-dawn"}
RESTRICTED = {"minutes-of-january", "minutes-of-march", "minutes-of-may"}
LICENCES = {"summer": "CC BY 4.0", "autumn": "CC BY-SA 4.0", "winter": "All rights of the trust", "dawn": ""}

PICTURES: dict[str, dict[str, dict[str, Any]]] = {
    "/visit/towpath-walks": {"towpath-in-summer": {"place": "end", "width": 330, "caption": "Lock 3, early in June"}},
    "/about": {"stone-bridge": {"place": "wide", "ratio": "16:9", "focus": "5000,6200"}},
    "/boating/how-to-work-a-lock": {"lock-gates": {"ratio": "3:2", "border": "frame"}},
}
"""How pictures stand on pages: path → name → attributes. Markdown has no way to say it."""


def folder_of(name: str) -> str:
    """The folder of a file by its name, "" where it stands in none."""
    return next((folder for word, folder in BY_WORD.items() if word in name), "")
