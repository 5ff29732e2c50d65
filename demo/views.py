"""Views of the canal: the pictures that the library holds, and those of the commons. `drawing.views` draws them."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class View:
    """A view: a season and what stands in it. ``holds`` names what that is; ``alt`` is empty where the library's keeper
    has something to mend."""

    name: str
    season: str
    holds: str
    alt: str = ""
    author: str = ""


VIEWS = (
    View(
        "bridge-nine-in-spring",
        "summer",
        "bridge path",
        "A brick bridge over the canal in full sun, the towpath passing under it",
    ),
    View("bridge-nine-in-frost", "winter", "bridge", "The same brick bridge under snow, ice along both banks"),
    View(
        "bridge-nine-at-dawn", "dawn", "bridge boat", "A narrowboat coming out from under a brick bridge at first light"
    ),
    View("lock-two-gates", "summer", "gates", "Lock gates with white-tipped beams, closed"),
    View("lock-three-gates", "autumn", "gates people", "Two volunteers beside closed lock gates, leaves on the ground"),
    View("lock-seven-gates", "winter", "gates", "Lock gates in snow, the water below them frozen"),
    View("lock-eleven-gates", "dawn", "gates birds", "Lock gates before sunrise, birds crossing the sky"),
    View("IMG_20260412_0081", "summer", "boat path"),
    View("IMG_20260412_0082", "summer", "boat people path"),
    View("IMG_20260503_0007", "autumn", "field birds"),
    View("moorings-at-fieldgate", "summer", "boat boat", "Two narrowboats moored one behind the other"),
    View("moorings-in-october", "autumn", "boat boat path", "Two narrowboats moored beside a leaf-covered towpath"),
    View("moorings-in-january", "winter", "boat", "A narrowboat frozen in at its mooring"),
    View("village-from-the-water", "summer", "village", "Seven stone houses along the water, their reflections below"),
    View("village-in-autumn", "autumn", "village path", "Houses of the village behind trees in autumn colours"),
    View("village-under-snow", "winter", "village birds"),
    View("wardens-setting-out", "dawn", "people path", "Three towpath wardens walking out along the canal at dawn"),
    View("wardens-at-work", "summer", "people field", "Wardens in orange and blue coats in a meadow"),
    View("work-party-october", "autumn", "people path", "A work party on the towpath among fallen leaves"),
    View("work-party-february", "winter", "people field"),
    View("meadow-by-lock-five", "summer", "field", "A meadow that slopes to the canal, hills behind it"),
    View("meadow-in-mist", "dawn", "field birds", "Birds over a meadow in the mist of early morning"),
    View("stubble-field", "autumn", "field", "A stubble field with a row of trees"),
    View("snow-on-the-meadow", "winter", "field", "The meadow under snow"),
    View("open-water-at-the-wide", "summer", "birds", "The wide: open water with birds above it"),
    View("the-wide-at-dawn", "dawn", "birds boat", "A boat on the wide at sunrise"),
    View("reedbank-october", "autumn", "path birds", "The towpath beside a reed bank in autumn"),
    View("horse-path", "summer", "path", "The old horse path, broad and grassy"),
    View("trip-boat-full", "summer", "boat people", "The trip boat with passengers on the bank beside it"),
    View("trip-boat-winter-berth", "winter", "boat village"),
    View("arched-bridge-village", "summer", "bridge village", "A bridge with the houses of the village behind it"),
    View("dredging-day", "autumn", "boat people", "The work boat on dredging day"),
)
FREE = (
    View("heron-water", "dawn", "birds", "Still water at dawn, birds above", "Ansel Thrupp"),
    View("canal-bend", "summer", "path", "A canal that bends away between trees", "Ansel Thrupp"),
    View("old-bridge", "summer", "bridge", "An old brick bridge", "Mirela Stow"),
    View("old-bridge-winter", "winter", "bridge birds", "An old brick bridge in winter", "Mirela Stow"),
    View("narrow-boat-blue", "summer", "boat", "A narrowboat on a summer day", "Jory Penhale"),
    View("two-narrow-boats", "autumn", "boat boat", "Two narrowboats in autumn", "Jory Penhale"),
    View("lock-in-summer", "summer", "gates path", "A lock with closed gates in summer", "Hester Quill"),
    View("lock-in-frost", "winter", "gates", "A lock with closed gates in frost", "Hester Quill"),
    View("walkers", "autumn", "people path", "Walkers beside a canal in autumn", "Bram Ollerton"),
    View("river-village", "summer", "village", "Houses beside a river", "Bram Ollerton"),
    View("snowy-village", "winter", "village", "A village in snow", "Bram Ollerton"),
    View("harvest-field", "autumn", "field birds", "Birds over a harvested field", "Mirela Stow"),
    View("morning-meadow", "dawn", "field", "A meadow in the morning", "Ansel Thrupp"),
    View("canal-people", "summer", "people", "People on the bank of a canal", "Hester Quill"),
)
