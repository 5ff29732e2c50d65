"""What a site's theme offers authors: its tones with their contrast, and its text styles.

The theme says it once, in `theme/page.css`: custom properties ``--tone-NAME`` and ``--ground…`` on the root element,
and rules for ``[data-style="NAME"]``. It is read from there, so the choice and the page agree.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache

import tinycss2
from django.conf import settings

from stillpage_core.colour import TEXT_RATIO, contrast, parse_colour

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
class Palette:
    """The tones of a theme, and the names of its text styles."""

    tones: tuple[Tone, ...]
    styles: tuple[str, ...]


@cache
def palette(theme: str) -> Palette:
    """What the theme of this name offers."""
    css = (settings.ROOT / "theme" / "page.css").read_text(encoding="utf-8")
    properties: dict[str, str] = {}
    for rule in tinycss2.parse_stylesheet(css, skip_comments=True, skip_whitespace=True):
        if rule.type == "qualified-rule" and _is_of(tinycss2.serialize(rule.prelude), theme):
            for each in tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True):
                if each.type == "declaration":
                    properties[each.name] = tinycss2.serialize(each.value).strip()
    grounds = {kind: parse_colour(properties[f"--ground{ending}"]) for ending, kind in GROUNDS.items()}
    tones = tuple(
        Tone(
            name.removeprefix("--tone-"),
            value,
            {
                kind: int(ratio * 10) / 10
                for kind, ground in grounds.items()
                if (ratio := contrast(parse_colour(value), ground)) >= TEXT_RATIO
            },
        )
        for name, value in properties.items()
        if name.startswith("--tone-")
    )
    styles = dict.fromkeys(re.findall(r'\[data-style="([a-z0-9-]+)"\]', css))
    return Palette(tones, tuple(styles))


def _is_of(selector: str, theme: str) -> bool:
    return selector.strip() in (":root", f':root[data-theme="{theme}"]')
