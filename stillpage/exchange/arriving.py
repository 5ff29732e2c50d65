"""What comes in meets the library and the sites: pictures become items, addresses of our own pages become links that
hold."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache
from urllib.parse import SplitResult, unquote

from django.conf import settings
from django.core.files.base import ContentFile

from stillpage.computing import resting
from stillpage.hosts.keeping import allowed as allowed_hosts
from stillpage.hosts.keeping import framed, post_at, quoted
from stillpage.library.models import File, Item
from stillpage.library.receiving import Hidden, receive
from stillpage.pages.models import Page
from stillpage.pages.seeing import Sight, sight_of
from stillpage.people.models import Person
from stillpage.rights import Right, may
from stillpage.sites.models import Site
from stillpage_core.document import Node
from stillpage_core.media.hosting import host_of
from stillpage_core.media.pictures import FileError
from stillpage_core.reading import Arriving, Message, Picture, Reading, named_items, with_pictures
from stillpage_core.references import web_parts


@dataclass(frozen=True)
class Arrived:
    """A reading whose pictures are in the library. ``items`` are those, new and known."""

    document: Node
    messages: tuple[Message, ...]
    items: tuple[Item, ...]


def own_pages(sight: Sight) -> Callable[[str], str | None]:
    """A function that turns the address of a page or item of ours into a link to it by number; None for any other
    address, and for what ``sight`` leaves out."""

    @cache
    def sites() -> dict[str, int]:
        return {site.origin: site.pk for site in Site.objects.all()}

    @cache
    def link(address: str) -> str | None:
        parts = web_parts(address)
        if parts is None:
            return None
        with resting():
            return known(parts)

    def known(parts: SplitResult) -> str | None:
        site = sites().get(f"{parts.scheme}://{parts.netloc}")
        if site is None or parts.query:
            return None
        if parts.path.startswith(settings.MEDIA_URL):
            item = _item_at(parts.path, sight)
            return f"item:{item.pk}" if item else None
        pages = sight.pages(Page.objects.filter(site=site, path=unquote(parts.path) or "/"))
        page = pages.only("pk").first()
        fragment = f"#{parts.fragment}" if parts.fragment else ""
        return f"page:{page.pk}{fragment}" if page else None

    return link


def known_posts(sight: Sight) -> Callable[[str, bool], bool]:
    """A function that tells whether what is quoted from an address is shown as a post: one of the library, or a code
    of a network that is allowed."""

    @cache
    def is_post(address: str, in_code: bool) -> bool:
        if web_parts(address) is None:
            return False
        with resting():
            known = post_at(address)
            if known is not None:
                return sight.items(Item.objects.filter(pk=known.pk)).exists()
            return in_code and host_of(address, allowed_hosts()) is not None

    return is_post


def surroundings(sight: Sight, *, whole: bool = False) -> Arriving:
    """What a text that comes in is read with: the pages, items and networks that are known here."""
    return Arriving(link=own_pages(sight), post=known_posts(sight), whole=whole)


def _item_at(path: str, sight: Sight) -> Item | None:
    name = path.removeprefix(settings.MEDIA_URL)
    return sight.items(Item.objects.filter(pk__in=File.objects.filter(name=name).values("item"))).first()


def arrived(
    reading: Reading,
    person: Person,
    given: Sequence[int] = (),
    fetch: Callable[[Picture], bytes | int | None] | None = None,
) -> Arrived:
    """Put the pictures of a reading into the library and name them in its document.

    ``given`` are items for pictures that came without their bytes, in order; ``fetch`` finds the bytes of a picture by
    its address, or the number of an item that has them. A picture that cannot be had or taken is left out, and told; a
    post stays the quotation that it came as.
    """
    numbers: dict[int, int | None] = {}
    items: dict[int, Item] = {}
    messages = list(reading.messages)
    sight = sight_of(person)
    waiting = list(sight.items(Item.objects.filter(pk__in=given, kind=Item.Kind.PICTURE)))
    waiting.sort(key=lambda item: list(given).index(item.pk))
    allowed = may(person, Right.ADD_TO_LIBRARY)
    posts = {each: _quoted(each, person, sight, allowed=allowed) for each in reading.pictures if each.kind == "post"}
    items |= {item.pk: item for item in posts.values() if item}
    document = with_pictures(
        reading.document,
        {post.number: item.pk if item else None for post, item in posts.items()},
        {post.number: post.instead for post in posts},
    )
    # Pictures within a quotation that has become a post come with the post.
    shown = named_items([document])
    for picture in (each for each in reading.pictures if each.number in shown):
        item = (
            _known(picture, sight)
            or _framed(picture, person, allowed=allowed)
            or _taken(picture, person, messages, fetch, allowed=allowed)
        )
        if item is None and picture.data is None and waiting and picture.kind == "picture":
            item = waiting.pop(0)
        if item is None and picture.data is None:
            messages.append(_not_had(picture))
        numbers[picture.number] = item.pk if item else None
        if item:
            items[item.pk] = item
    return Arrived(with_pictures(document, numbers), tuple(messages), tuple(items.values()))


def _known(picture: Picture, sight: Sight) -> Item | None:
    """The item that a picture, film or sound copied from one of our own pages shows."""
    parts = web_parts(picture.address)
    path = parts.path if parts else picture.address.partition("?")[0]
    item = _item_at(path, sight) if path.startswith(settings.MEDIA_URL) else None
    return item if item and item.kind == picture.kind else None


def _framed(picture: Picture, person: Person, *, allowed: bool) -> Item | None:
    """The film elsewhere that a frame shows, where its host is allowed."""
    if picture.kind != "hosted" or not allowed:
        return None
    try:
        return framed(picture.address, picture.alt, person)
    except Hidden:
        return None


def _quoted(post: Picture, person: Person, sight: Sight, *, allowed: bool) -> Item | None:
    """The post that a quotation is of, where it is in the library or its network is allowed."""
    try:
        item = quoted(post.address, post.instead, person) if allowed else post_at(post.address)
    except Hidden:
        return None
    return sight.items(Item.objects.filter(pk=item.pk)).first() if item else None


def _a(kind: str) -> str:
    return f"{'An' if kind[0] in 'aeiou' else 'A'} {kind}"


def _not_had(picture: Picture) -> Message:
    """What is told of a picture, film or sound that does not come along, with what would do."""
    shown = picture.alt or (picture.name or picture.address)[:80]
    if picture.kind == "picture":
        return Message("dropped", f"A picture that could not be had was left out: “{shown}”")
    if picture.kind == "hosted":
        parts = web_parts(picture.address)
        origin = parts.hostname[:100] if parts and parts.hostname else "elsewhere"
        sentence = f"A framed page from {origin} was left out: {picture.address[:200]}. Link to it instead."
        return Message("dropped", sentence)
    where = f" It is at {picture.address[:200]}" if picture.address.startswith("http") else ""
    sentence = f"{_a(picture.kind)} was left out: “{shown}”.{where} Add it to the media library, and then here."
    return Message("dropped", sentence)


def _taken(
    picture: Picture,
    person: Person,
    messages: list[Message],
    fetch: Callable[[Picture], bytes | int | None] | None,
    *,
    allowed: bool,
) -> Item | None:
    found = picture.data if picture.data is not None else fetch(picture) if fetch else None
    if isinstance(found, int):
        return Item.objects.filter(pk=found, kind=picture.kind).first()
    if found is None:
        return None
    if not allowed:
        named = f" (“{picture.alt}”)" if picture.alt else ""
        why = "you may not add to the media library"
        messages.append(Message("dropped", f"{_a(picture.kind)}{named} was left out: {why}"))
        return None
    try:
        name = picture.name or picture.alt[:80] or f"Pasted {picture.kind}"
        item, _ = receive(ContentFile(found, name=name), person, picture.alt)
    except (FileError, Hidden) as error:
        shown = picture.alt or picture.name
        named = f" (“{shown[:60]}”)" if shown else ""
        messages.append(Message("dropped", f"A {picture.kind}{named} was left out: {error}"))
        return None
    if item.kind != picture.kind:
        messages.append(Message("dropped", f"“{item.title}” is in the library now, but is no {picture.kind}"))
        return None
    return item
