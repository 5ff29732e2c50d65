"""Films and posts elsewhere as items of the library: brought in by address or code, asked for again in the background.

How often a host is asked again is common practice.
"""

from __future__ import annotations

import logging
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django.core.files.base import ContentFile
from django.db import IntegrityError, transaction
from django.utils import timezone
from django_tasks import task

from stillpage.library import folders
from stillpage.library.covers import keep_cover
from stillpage.library.models import Folder, Item
from stillpage.library.receiving import Hidden, receive
from stillpage.library.search import note_words
from stillpage.library.signals import tell_changed
from stillpage.outside.fetching import Progress
from stillpage.outside.testing import QUEUE, alone, digest_of
from stillpage.outside.turns import in_turns
from stillpage.people.models import Person
from stillpage.rights import closed_folders
from stillpage_core.document import Node
from stillpage_core.document.walking import text_of
from stillpage_core.media.hosting import FilmHost, Hosted, HostError, address_in, host_of, kept_of, title_of
from stillpage_core.media.pictures import FileError

from .asking import Pictures, Reply, ask, cover_of, pictures_of
from .models import Host, Hosting

AT_ONCE = 20
"""How many films one task asks for at most."""
AGAIN = {
    Hosting.State.RIGHT: timedelta(days=3),
    Hosting.State.GONE: timedelta(days=1),
}
_SILENT = (timedelta(hours=1), timedelta(hours=6), timedelta(days=1))
log = logging.getLogger(__name__)


def allowed() -> dict[FilmHost, Host]:
    """The hosts that films may be shown from, in the order of their names."""
    return {row.known: row for row in Host.objects.filter(removed_at=None)}


def is_hosted(text: str, hosts: dict[FilmHost, Host] | None = None) -> bool:
    """Whether something typed or pasted is a code, or the address of a film at a host that is allowed."""
    return text.lstrip().startswith("<") or host_of(text.strip(), allowed() if hosts is None else hosts) is not None


@dataclass(frozen=True)
class Brought:
    """A film elsewhere that is in the library now, whether that is new, and what could not be had of it."""

    item: Item
    is_new: bool
    told: str = ""


def bring(text: str, person: Person, folder: Folder | None = None) -> Iterator[Progress | Brought]:
    """Bring in the film at an address, or in a code that its host gives; tells that it is being asked for, and last
    what it has become. The same film again is the item that it has been; from the bin it comes back.

    Raises:
        HostError: when the host is not allowed, or has no such film; with a sentence.
        Hidden: when the library has it where the person may not see it.
    """
    hosts = allowed()
    address = _clean(address_in(text, hosts))
    found = host_of(address, hosts)
    assert found is not None  # Or there would have been no such address in it.
    host = hosts[found]
    if known := _known(digest=digest_of(address), person=person):
        yield Brought(known, is_new=False)
        return
    yield Progress(0, 0)
    reply = ask(host.known, address)
    if reply.hosted is None:
        raise HostError(reply.fault)
    if reply.hosted.frame and (known := _known(host=host, frame=reply.hosted.frame, person=person)):
        yield Brought(known, is_new=False)
        return
    yield Progress(1, 0)
    if reply.hosted.post is not None:
        item, is_new = _made(_row(host, address), reply.hosted, person, folder)
        told = ["It has more words than are kept; the rest stands at its network."] if reply.hosted.post.cut else []
        if is_new:
            told += _with_pictures(item, pictures_of(reply.hosted.post), person, folder)
        yield Brought(item, is_new, " ".join(told) if is_new else "")
        return
    cover, fault = cover_of(reply.hosted)
    item, is_new = _made(_row(host, address), reply.hosted, person, folder)
    if is_new and cover:
        fault = covered(item, cover, reply.hosted.cover)
    yield Brought(item, is_new, f"It has no cover: {fault}" if fault else "")


def _with_pictures(item: Item, pictures: Pictures, person: Person, folder: Folder | None) -> list[str]:
    """Take the pictures of a post into the library; in sentences what could not be had of it."""
    faults = list(pictures.faults)
    numbers: list[int] = []
    for data, alt in pictures.had:
        try:
            picture, _ = receive(ContentFile(data), person, alt, name=f"{item.title}.jpg", folder=folder)
        except (FileError, Hidden) as error:
            faults.append(str(error))
            continue
        if picture.kind == Item.Kind.PICTURE:
            numbers.append(picture.pk)
    Hosting.objects.filter(pk=item.pk).update(pictures=numbers)
    item.hosting.pictures = numbers
    return [f"A picture of it was left out: {fault}" for fault in faults]


def post_at(address: str) -> Item | None:
    """The post of the library that stands at an address."""
    found = Hosting.objects.filter(digest=digest_of(_clean(address)), item__kind=Item.Kind.POST, item__binned_at=None)
    row = found.select_related("item").first()
    return row.item if row else None


def keep(host: Host, address: str, said: Hosted, person: Person) -> Item:
    """The item of a film of which all is known that its host would say, without a cover so far."""
    return _made(_row(host, address), said, person)[0]


def _clean(address: str) -> str:
    return address.partition("#")[0]


def _known(*, person: Person, **of: Any) -> Item | None:
    found = Hosting.objects.filter(**of).select_related("item").first()
    if found is None:
        return None
    item = found.item
    if item.folder_id in closed_folders(person, folders.Tree()):
        raise Hidden
    if item.binned_at is not None:
        Item.objects.filter(pk=item.pk).update(binned_at=None, binned_by=None)
    return item


def _row(host: Host, address: str) -> Hosting:
    return Hosting(host=host, address=address, digest=digest_of(address), next_at=timezone.now())


def _untitled(host: Host) -> str:
    """What a film is called of which no name is known."""
    return f"A film at {host.name}"


def _made(
    hosting: Hosting,
    said: Hosted | None,
    person: Person,
    folder: Folder | None = None,
    *,
    title: str = "",
    kind: Item.Kind = Item.Kind.HOSTED,
) -> tuple[Item, bool]:
    """An item for a film, with what is known of it; the one that somebody else has made at the same moment."""
    now = timezone.now()
    item = Item(kind=kind, folder=folder, added_at=now, added_by=person, made=1)
    if said and said.post:
        item.kind = Item.Kind.POST
    item.title = (said.title if said else title)[:200] or _untitled(hosting.host)
    if said:
        item.credit, item.lasts = said.author, said.lasts * 1000
        _say(hosting, said)
        hosting.state, hosting.asked_at = Hosting.State.RIGHT, now
        hosting.next_at = now + AGAIN[Hosting.State.RIGHT]
    try:
        with transaction.atomic():
            item.save()
            hosting.item = item
            hosting.save()
            note_words(item, hosting.words)
    except IntegrityError:
        if known := _known(digest=hosting.digest, person=person):
            return known, False
        raise
    return item, True


def _say(hosting: Hosting, said: Hosted) -> bool:
    """Have a film say what its host said of it; not saved. Whether readers see anything of that. A post stays as it was
    read first, but for where the network's own view of it is."""
    values: dict[str, Any] = {"frame": said.frame, "width": said.width, "height": said.height}
    if not (said.post and hosting.asked_at):
        values |= {"author": said.author, "author_address": said.author_address}
    if said.post and not hosting.asked_at:
        values |= {"words": "\n".join(said.post.words), "posted_at": said.post.at}
    differs = any(getattr(hosting, name) != value for name, value in values.items())
    for name, value in values.items():
        setattr(hosting, name, value)
    return differs


def covered(item: Item, data: bytes, address: str) -> str:
    """Keep a cover that was had from an address; in a sentence why it could not be."""
    # Whether it can be taken or not: the same one is not fetched again.
    Hosting.objects.filter(pk=item.pk).update(cover_address=address)
    try:
        keep_cover(item, data)
    except FileError as error:
        return str(error)
    return ""


def framed(address: str, title: str, person: Person) -> Item | None:
    """The item of a film that somebody else's page shows in a frame; None where its host is not allowed.

    Nobody is asked for it now: whoever brings in a page does not wait for a host. It is asked in the background.
    """
    hosts = allowed()
    found = host_of(address, hosts)
    if found is None:
        return None
    return _unasked(_row(hosts[found], _clean(address)), person, Item.Kind.HOSTED, title)


def quoted(address: str, blocks: Sequence[Node], person: Person) -> Item | None:
    """The item of a post that somebody else's page quotes with these blocks; None where its network is not allowed, or
    has something else there. Until the network is asked, in the background, its words are those of the quotation.
    """
    hosts = allowed()
    found = host_of(address, hosts)
    if found is None:
        return None
    row = _row(hosts[found], _clean(address))
    words, _ = kept_of("\n".join(map(text_of, blocks)).split("\n"))
    row.words = "\n".join(words)
    item = _unasked(row, person, Item.Kind.POST, title_of(row.host.name, words))
    return item if item.kind == Item.Kind.POST else None


def _unasked(row: Hosting, person: Person, kind: Item.Kind, title: str) -> Item:
    """An item of something at a host that is asked in the background, or the one that there has been."""
    if known := _known(digest=row.digest, person=person):
        return known
    item, is_new = _made(row, None, person, title=title, kind=kind)
    if is_new:
        transaction.on_commit(lambda: ask_due.enqueue() and None)
    return item


@task(queue_name=QUEUE)
def ask_due() -> int:
    """Ask for the films whose turn it is; returns how many: none while another worker does."""
    with alone("hosts") as first:
        return _ask_due() if first else 0


def _ask_due() -> int:
    due = _due().select_related("host", "item").order_by("next_at")[:AT_ONCE]
    return in_turns({row: row.host.name for row in due}, _ask, note)


def _due() -> Any:
    return Hosting.objects.filter(next_at__lte=timezone.now(), item__binned_at=None, host__removed_at=None)


def is_due() -> bool:
    """Whether any film elsewhere waits to be asked for."""
    return bool(_due().exists())


def ask_again(item: Item) -> None:
    """Ask for one film now. Raises `HostError` where nothing is shown from its host any more."""
    row = Hosting.objects.select_related("host", "item").get(pk=item.pk)
    if row.host.removed_at is not None:
        raise HostError(f"Nothing is shown from {row.host.name} any more; it is not asked.")
    note(row, _ask(row))


def _is_such(item: Item, said: Hosted) -> bool:
    """Whether what a host says is what the item is; a post that was framed is shown in its frame."""
    return bool(said.post) if item.kind == Item.Kind.POST else bool(said.frame or not said.post)


@dataclass(frozen=True)
class Answer:
    """What came of asking for a film again, with its cover where that is another; or that its host was not asked now,
    since it did not answer for the film before."""

    reply: Reply | None = None
    cover: bytes = b""
    pictures: Pictures | None = None

    @property
    def silent(self) -> bool:
        """Whether its host does not answer at all."""
        return self.reply is not None and self.reply.hosted is None and not self.reply.gone


def _ask(row: Hosting) -> Answer:
    """Ask for a film. Touches no database."""
    try:
        reply = ask(row.host.known, row.address)
        said = reply.hosted
        cover = cover_of(said)[0] if said and said.cover != row.cover_address else b""
        first = said.post if said and row.asked_at is None and row.item.kind == Item.Kind.POST else None
        return Answer(reply, cover, pictures_of(first) if first else None)
    except Exception:
        # One strange answer must not keep all others from being asked.
        log.exception("Asking for %s went wrong", row.address)
        return Answer(Reply(fault=f"{row.host.name} answers in a way that cannot be understood."))


def note(row: Hosting, answer: Answer | None) -> None:
    """Note what a host said of a film, and when it is asked again; pages that show it follow."""
    now = timezone.now()
    if answer is None or answer.reply is None:
        Hosting.objects.filter(pk=row.pk).update(next_at=now + _SILENT[0])
        return
    reply, before = answer.reply, row.gone
    differs = False
    if reply.hosted and not _is_such(row.item, reply.hosted):
        what = "a post" if reply.hosted.post else "a film"
        reply = Reply(fault=f"At this address {row.host.name} has {what} now.", gone=True)
    unnamed = row.item.title in (_untitled(row.host), title_of(row.host.name, row.words.split("\n")))
    if said := reply.hosted:
        differs = _say(row, said)
        row.state, row.fault, row.failures = Hosting.State.RIGHT, "", 0
    else:
        row.state = Hosting.State.GONE if reply.gone else Hosting.State.SILENT
        row.fault, row.failures = reply.fault[:300], row.failures + 1
    row.asked_at = now
    again = AGAIN.get(Hosting.State(row.state)) or _SILENT[min(row.failures, len(_SILENT)) - 1]
    row.next_at = now + again
    with transaction.atomic():
        if not Hosting.objects.select_for_update().filter(pk=row.pk).exists():
            return  # It was removed for good while its host was asked.
        row.save()
        if said and unnamed and said.title and said.title != row.item.title:
            # Nobody has given it a name yet.
            row.item.title, row.item.credit = said.title[:200], row.item.credit or said.author
            row.item.save(update_fields=["title", "credit"])
            note_words(row.item, row.words)
            differs = True
        if said and said.lasts and said.lasts * 1000 != row.item.lasts:
            Item.objects.filter(pk=row.pk).update(lasts=said.lasts * 1000)
            differs = True
        if said and answer.pictures and row.item.added_by:
            for fault in _with_pictures(row.item, answer.pictures, row.item.added_by, row.item.folder):
                log.warning("%s: %s", row.address, fault)
        if differs or before != row.gone:
            tell_changed([row.item])
    if answer.cover and said and (fault := covered(row.item, answer.cover, said.cover)):
        log.warning("The cover of %s was not taken: %s", row.address, fault)
