"""What a site's theme offers authors: its tones with their contrast, its text styles, and its regions.

The theme says it once, in `theme/page.css`: custom properties ``--tone-NAME`` and ``--ground…`` on the root element,
rules for ``[data-style="NAME"]``, and for each region how wide it is (``--measure``), how wide pictures may be beyond
that (``--wide``) and what it is called (``--label``), by a rule of the theme's own for ``[data-region="NAME"]``. It is
read from there, so the choice and the page agree.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

import tinycss2
from django.conf import settings

from stillpage_core.checking import Theme
from stillpage_core.colour import TEXT_RATIO, contrast, parse_colour
from stillpage_core.document.schema import MAIN
from stillpage_core.media.shown import Room

GROUNDS = {"": "page", "-note": "note", "-tip": "tip", "-warning": "warning", "-header": "header"}
"""The endings of ``--ground…`` and what they are the ground of."""


@dataclass(frozen=True)
class Tone:
    """A colour for words. ``ratios`` are its contrasts by ground; a ground on which it would fall below
    WCAG 2.2, 1.4.3, is not among them."""

    name: str
    colour: str
    ratios: dict[str, float]


@dataclass(frozen=True)
class Region:
    """A part of the page that the theme has a place for. ``column`` and ``wide`` as in `media.shown.Room`."""

    name: str
    label: str
    column: int
    wide: int


@dataclass(frozen=True)
class Palette:
    """The tones of a theme, the names of its text styles, and its regions, main first."""

    tones: tuple[Tone, ...]
    styles: tuple[str, ...]
    regions: tuple[Region, ...]


def _css() -> str:
    return (settings.ROOT / "theme" / "page.css").read_text(encoding="utf-8")


def _rules() -> Iterator[tuple[str, dict[str, str]]]:
    """The rules of the stylesheet: each selector with what it declares."""
    for rule in tinycss2.parse_stylesheet(_css(), skip_comments=True, skip_whitespace=True):
        if rule.type == "qualified-rule":
            every = tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True)
            declared = {
                each.name: tinycss2.serialize(each.value).strip() for each in every if each.type == "declaration"
            }
            yield tinycss2.serialize(rule.prelude).strip(), declared


@cache
def regions_of(theme: str) -> tuple[Region, ...]:
    """The regions of the theme of this name, main first."""
    own = f':root[data-theme="{theme}"]'
    said: dict[str, dict[str, str]] = {MAIN: {}}
    for selector, declared in _rules():
        named = re.fullmatch(re.escape(own) + r' \.text\[data-region="([a-z0-9-]+)"\]', selector)
        if named and "--measure" in declared:
            said[named[1]] = {**said[MAIN], **declared}
        elif selector in (":root", own, f"{own} .text"):
            said[MAIN] |= declared
    return tuple(
        Region(
            name,
            declared.get("--label", '"The text"').strip('"'),
            *(int(declared[each].removesuffix("px")) for each in ("--measure", "--wide")),
        )
        for name, declared in said.items()
    )


@cache
def theme_of(name: str) -> Theme:
    """What the page check needs to know of the theme of this name."""
    properties: dict[str, str] = {}
    colours: dict[str, str] = {}
    for selector, declared in _rules():
        if selector in (":root", f':root[data-theme="{name}"]'):
            properties |= declared
        for style in re.findall(r'\[data-style="([a-z0-9-]+)"\]', selector):
            colours[style] = declared.get("color", colours.get(style, "var(--ink)"))
    tones = {
        each.removeprefix("--tone-"): parse_colour(value)
        for each, value in properties.items()
        if each.startswith("--tone-")
    }
    styles = {
        style: parse_colour(re.sub(r"var\((.+?)\)", lambda used: properties[used[1]], colour))
        for style, colour in colours.items()
    }
    return Theme(
        tones,
        styles,
        {kind: parse_colour(properties[f"--ground{ending}"]) for ending, kind in GROUNDS.items()},
        {region.name: Room(region.column, region.wide) for region in regions_of(name)},
    )


@cache
def levels_of(theme: str) -> int:
    """How many levels the navigation of the theme of this name shows (``--levels``)."""
    said = {selector: declared["--levels"] for selector, declared in _rules() if "--levels" in declared}
    return int(said.get(f':root[data-theme="{theme}"]', said.get(":root", "1")))


@cache
def names() -> tuple[str, ...]:
    """The names of the themes that there are."""
    found = (re.fullmatch(r':root\[data-theme="([a-z]+)"\].*', selector) for selector, _ in _rules())
    return tuple(sorted({"canal", *(match[1] for match in found if match)}))


@cache
def palette(theme: str) -> Palette:
    """What the theme of this name offers."""
    colours = theme_of(theme)
    tones = tuple(
        Tone(
            name,
            "#{:02x}{:02x}{:02x}".format(*colour),
            {
                kind: int(ratio * 10) / 10
                for kind, ground in colours.grounds.items()
                if (ratio := contrast(colour, ground)) >= TEXT_RATIO
            },
        )
        for name, colour in colours.tones.items()
    )
    return Palette(tones, tuple(colours.styles), regions_of(theme))
