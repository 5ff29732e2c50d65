"""Blocks by themselves, as readers get them: what the sheet shows of kinds that it does not draw itself."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from stillpage.computing import computing
from stillpage.library.animations import colour_at_once
from stillpage.library.models import Item
from stillpage.pages.seeing import Sight
from stillpage.sites.models import Site
from stillpage.sites.themes import theme_of
from stillpage_core.document import Node
from stillpage_core.document.naming import framings_in
from stillpage_core.media.editing import EDITS
from stillpage_core.media.plan import FALLBACK
from stillpage_core.media.shown import picture_cut
from stillpage_core.resolving import ImageFile, PictureTarget
from stillpage_core.writing.html import Block, published_blocks

from .rendering import module
from .resolving import resolver_for


def blocks_of(document: Node, site: Site, *, sight: Sight, makes: bool) -> list[Block]:
    """The blocks of a document, each with the addresses of its scripts; in a few queries, whatever their number. Who
    ``makes`` what is on the page has files made that it needs at once: animations in other colours. A cut of a picture
    whose files are not made yet is shown by one that is made when it is asked for."""
    framings = framings_in(document) if makes else {}
    for item in sight.items(Item.objects.filter(pk__in=framings, kind=Item.Kind.ANIMATION)):
        colour_at_once(item, framings[item.pk])
    resolver = resolver_for([document], site.origin, site, sight=sight, checks=False)
    if makes:
        pictures = {
            number: _with_cuts(target, framings.get(number, ())) for number, target in resolver.pictures.items()
        }
        resolver = replace(resolver, pictures=pictures)
    with computing():
        made = published_blocks(document, resolver, theme_of(site.theme).rooms, module, site.language)
    return [each._replace(scripts=tuple(map(module, each.scripts))) for each in made]


def _with_cuts(target: PictureTarget, framings: Iterable[Mapping[str, Any]]) -> PictureTarget:
    there = {file.cut for file in target.files}
    every = (picture_cut(target, {**dict.fromkeys(EDITS), **framing}) for framing in framings)
    cuts = {cut.key: cut for cut in every if cut.key not in there}
    files = list(target.files)
    for key, cut in sorted(cuts.items()):
        whole, high = cut.size(target.width, target.height)
        for width in sorted({min(each, whole) for each in FALLBACK}):
            address = f"/api/items/{target.number}/cut/{key}?width={width}"
            files.append(ImageFile(address, width, max(1, round(high * width / whole)), cut=key))
    return replace(target, files=tuple(files))
