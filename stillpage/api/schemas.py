"""The shapes that go in and out, as OpenAPI describes them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Field, Schema
from pydantic import UUID4, ConfigDict, WithJsonSchema

Document = Annotated[dict[str, Any], WithJsonSchema({"x-core": "Doc"})]
"""A document. Its schema is the core's; `described` puts it in place of the mark."""


class SignIn(Schema):
    username: str = Field(max_length=150)
    password: str = Field(max_length=1000)


class Choices(Schema):
    """How a person likes the interface. What is null was never chosen."""

    model_config = ConfigDict(extra="forbid")

    width: Literal["fit", "390", "820", "1280"] | None = Field(None, description="The reading width of the sheet.")
    left: Literal["outline", "notes", "listening"] | None = None
    left_shut: bool | None = Field(None, description="Whether Outline, Notes and Listening are folded away.")
    shelf_shut: bool | None = Field(None, description="Whether the Shelf is folded away.")
    more_marks: bool | None = Field(None, description="Whether the second line of the rule is open.")
    library: Literal["pictures", "lines"] | None = None
    keys: dict[Annotated[str, Field(max_length=60)], Annotated[str, Field(max_length=40)]] | None = Field(
        None, max_length=100, description="Keys of one's own, by the act they do; an empty one switches a key off."
    )


class Person(Schema):
    username: str
    name: str
    choices: Choices


class Session(Schema):
    """Who is signed in (nobody: null), and what the interface has to know."""

    person: Person | None
    csrf_token: str
    upload_limit: int = Field(description="The largest picture taken, in bytes.")
    document_limit: int = Field(description="The largest document taken, in bytes.")
    film_limit: int = Field(description="The largest film or sound taken, in bytes.")
    page_film_limit: int = Field(description="What a film of a page is to have at most, in bytes.")
    upload_piece: int = Field(description="The largest piece in which a file is sent, in bytes.")
    commons: bool = Field(description="Whether there is a commons of free pictures to look in.")
    may_arrange: bool = Field(description="Move, replace and delete items of the library.")
    may_keep: bool = Field(description="Say who may have items, and remove them for good.")
    may_read_trail: bool = Field(description="Read the audit trail.")
    may_keep_hosts: bool = Field(description="Say which hosts films may be shown from.")
    demo: bool = Field(description="Whether this is the demo, whose passwords everybody can read.")


class PasswordIn(Schema):
    present: str = Field(max_length=1000)
    new: str = Field(max_length=1000)


class SignedInAt(Schema):
    """A session of one's own: where and when it began, and when it was last used."""

    id: str
    present: bool = Field(description="Whether it is the one that asks.")
    agent: str = Field(description="What its browser calls itself.")
    address: str
    begun_at: datetime
    seen_at: datetime


class NotedEntry(Schema):
    """Something that was done. ``person`` is null where nobody was signed in."""

    id: int
    at: datetime
    act: str
    sentence: str
    person: int | None
    name: str
    site: int | None
    address: str
    agent: str
    facts: dict[str, Any]


class TrailOut(Schema):
    entries: list[NotedEntry] = Field(description="The newest first.")
    more: bool
    acts: list[str] = Field(description="Every act that is noted.")


class SiteOut(Schema):
    id: int
    name: str
    origin: str
    language: str
    may_write: bool
    may_publish: bool
    may_set_checks: bool


State = Literal["unpublished", "live", "changed"]


class ContentsEntry(Schema):
    """A page as the Contents shows it. ``state`` "changed" means: live, and the working copy differs."""

    id: int
    parent: int | None
    title: str
    path: str
    state: State
    in_navigation: bool
    below: int = Field(description="How many pages stand right under it; they may be given here or not.")


class Contents(Schema):
    site: SiteOut
    pages: list[ContentsEntry] = Field(description="Each page before those below it, siblings in order.")
    among: int = Field(description="How many pages stand right under the one asked for, or at the top.")
    all: int = Field(description="How many pages the site has.")
    out_of_date: int = Field(description="How many live pages wait for being rendered anew, in the background.")


class NewPage(Schema):
    title: str = Field(max_length=1000)
    parent: int | None = None
    after: int | None = None
    slug: str | None = Field(None, max_length=200)


class TextIn(Schema):
    title: str = Field(max_length=1000)
    description: str = Field("", max_length=5000)
    document: Document


class WorkingCopyIn(TextIn):
    """``base`` is the revision the text was made of. ``began`` is what it was made of, to be sent where the server asks
    for it, or where it is not the text of that revision. ``mark`` is what the sender knows this save by."""

    base: int
    mark: UUID4 | None = None
    began: TextIn | None = None
    person: str | None = Field(
        None, max_length=150, description="Who wrote it; nobody else saves it, though they may be signed in by now."
    )


class WorkingCopyOut(Schema):
    title: str
    description: str
    document: Document
    revision: int
    saved_at: datetime
    saved_by: str


class LiveOut(Schema):
    """What readers see. ``differs`` counts the places where the working copy is another."""

    address: str
    published_at: datetime
    published_by: str
    differs: int


class Edits(Schema):
    """What is made of a picture; null where nothing is said. See docs/document.md."""

    turn: int | None = Field(None, ge=0, le=3)
    straighten: int | None = Field(None, ge=-150, le=150)
    crop: str | None = Field(None, pattern=r"^\d{1,5},\d{1,5},[1-9]\d{0,4},[1-9]\d{0,4}$")
    ratio: str | None = Field(None, pattern=r"^[1-9][0-9]?:[1-9][0-9]?$")
    focus: str | None = Field(None, pattern=r"^\d{1,5},\d{1,5}$")


class FileOut(Schema):
    """A file that a picture can be shown from. ``cut`` names what part of the original it shows."""

    address: str
    width: int
    height: int
    size: int
    mime: str
    cut: str


class ItemBrief(Schema):
    """An item as lists show it. ``width`` and ``height`` are the original's."""

    id: int
    kind: Literal["picture", "document", "film", "sound", "hosted", "animation", "post"]
    nature: Literal["", "photograph", "drawing", "moving", "lines"]
    title: str
    alt: str
    decorative: bool
    restricted: bool
    binned: bool
    problem: str
    width: int
    height: int
    length: int = Field(description="Of a document, in pages; 0 where it is not known.")
    lasts: int = Field(description="Of a film or sound, in milliseconds.")
    progress: int = Field(description="Of a film that is being made ready, in percent.")
    size: int = Field(description="In bytes.")
    format: str
    thumbnail: str
    ready: bool = Field(description="Whether all its files are made.")


class PlayedFileOut(Schema):
    """A source of a player, for the screens that ``media`` says; empty for all."""

    address: str
    mime: str
    media: str


class TrackOut(Schema):
    """Words that go with a film, as readers have them."""

    sort: Literal["captions", "descriptions", "chapters"]
    language: str
    name: str
    address: str


class FilmOut(Schema):
    """What readers are given of a film or sound; ``unfinished`` are languages of captions that they have not."""

    sources: list[PlayedFileOut]
    tracks: list[TrackOut]
    heard: bool = Field(description="Whether there is anything to hear.")
    unfinished: list[str]


class HostedOut(Schema):
    """A film that stands at another host. ``width`` and ``height`` are the size up to which it is shown."""

    host: str
    told: str = Field(description="Where it is and how long, as readers are told it.")
    address: str
    author: str
    author_address: str
    plays: bool = Field(description="Whether readers can play it on the page.")
    options: list[Literal["start", "captions", "muted", "loop"]] = Field(description="What its player honours.")
    width: int
    height: int
    gone: str = Field(description="Why it cannot be had, in a sentence; empty where it can.")
    asked_at: datetime | None = Field(description="When its host was last asked.")


class PostOut(Schema):
    """A post of a network, as it is kept. ``pictures`` are the numbers of its pictures in the library."""

    told: str = Field(description="Who wrote it, when, and where, as readers are told.")
    address: str
    words: list[str]
    pictures: list[int]
    gone: str = Field(description="Why it cannot be had there any more, in a sentence; empty where it can.")


class PdfOut(Schema):
    """What a PDF says of itself (ISO 32000-1)."""

    pages: int
    tagged: bool
    title: str
    language: str = Field(description="BCP 47; empty where it says none.")
    encrypted: bool
    form: bool
    script: bool
    locked: bool = Field(description="It opens with a password alone; the rest is not known.")


class WantingOut(Schema):
    """Something that readers miss in a document."""

    says: str
    remedy: str


class DocumentOut(Schema):
    """What was found in a document's file, the worst first."""

    pdf: PdfOut | None
    wanting: list[WantingOut]
    without_picture: str = Field(description="Why there is no picture of its first page, where it will not come.")


class ItemOut(ItemBrief):
    """An item of the library. ``files`` are what is made of it."""

    holds_words: bool
    colours: list[str] = Field(description="Of an animation: its colours, as six hexadecimal digits.")
    captioned: bool = Field(description="Of a film elsewhere: somebody has seen that it has captions.")
    description: str
    credit: str
    licence: str
    language: str
    tags: list[str]
    folder: int | None
    edits: Edits | None
    version: int
    leads_on: bool = Field(description="Whether old addresses lead to the present file, or are gone.")
    address: str
    link_format: str = Field(description="Of the file that a link gives readers; empty while it is to be made.")
    link_size: int = Field(description="Of the same, in bytes.")
    link_facts: list[str] = Field(description="What a list of downloads says of it: kind, size, pages.")
    language_name: str = Field(description="What its language calls itself; empty where none is said.")
    files: list[FileOut]
    film: FilmOut | None = Field(None, description="Of a film or sound.")
    document: DocumentOut | None = Field(None, description="Of a document.")
    hosted: HostedOut | None = Field(None, description="Of a film elsewhere.")
    post: PostOut | None = Field(None, description="Of a post of a network.")
    is_new: bool = True


class ItemChange(Schema):
    title: str | None = Field(None, max_length=200)
    alt: str | None = Field(None, max_length=1000)
    decorative: bool | None = None
    holds_words: bool | None = None
    captioned: bool | None = None
    description: str | None = Field(None, max_length=2000)
    credit: str | None = Field(None, max_length=200)
    licence: str | None = Field(None, max_length=200)
    language: str | None = Field(None, max_length=35, pattern=r"^$|^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$")
    tags: list[str] | None = Field(None, max_length=40)
    restricted: bool | None = None
    leads_on: bool | None = None
    edits: Edits | None = Field(None, description="All of them together; an empty object leaves nothing.")


class ActOut(Schema):
    """Something that was done, and can be undone by its number."""

    id: int
    sentence: str
    changed: int


class ItemsIn(Schema):
    items: list[int] = Field(max_length=5000)


class ItemsAct(ItemsIn):
    """``act`` on many items: ``move`` to a folder, ``tag`` (``words`` to give, ``without`` to take), ``describe`` with
    what ``say`` holds, ``bin``, ``restore``."""

    act: Literal["move", "tag", "describe", "bin", "restore"]
    folder: int | None = None
    words: list[str] = Field([], max_length=40)
    without: list[str] = Field([], max_length=40)
    say: ItemChange | None = None


class FolderOut(Schema):
    """A folder. ``kept_to`` are the sites that alone may use what it holds, by it or one above; none: all."""

    id: int
    name: str
    parent: int | None
    items: int
    sites: list[int]
    kept_to: list[int]


class FolderIn(Schema):
    name: str = Field(max_length=500)
    parent: int | None = None


class FolderChange(Schema):
    name: str | None = Field(None, max_length=500)
    parent: int | None = Field(None, description="0 for the top.")
    sites: list[int] | None = Field(None, max_length=200)


class FolderMade(Schema):
    folder: FolderOut
    act: ActOut


class VersionOfFile(Schema):
    """A file that an item has or had."""

    version: int
    came_as: str
    made_at: datetime
    size: int
    width: int
    height: int
    format: str
    address: str
    present: bool


class UploadIn(Schema):
    """``stamp`` tells two files of one name apart: when the file was last changed."""

    name: str = Field(max_length=1000)
    size: int = Field(ge=0)
    stamp: str = Field("", max_length=40)
    folder: int | None = None
    replaces: int | None = None


class UploadOut(Schema):
    id: str
    received: int
    piece: int


_Pattern = Annotated[str, Field(max_length=2000)]


class HostIn(Schema):
    """A host that films may be shown from. ``addresses`` are those of its films, as oEmbed 1.0 writes them;
    ``options`` say how its player is told what, as in “t={}” or “cc=1”."""

    name: str = Field(max_length=80)
    addresses: list[_Pattern] = Field(max_length=40)
    endpoint: str = Field(max_length=2000)
    frames: str = Field(max_length=255)
    options: dict[Literal["start", "captions", "muted", "loop", "autoplay"], Annotated[str, Field(max_length=90)]] = {}


class HostOut(HostIn):
    id: int
    films: int = Field(description="How many films the library has from there.")
    removed: bool


class HostTry(Schema):
    """A host as it is typed, and the address or the code of a film to try it with."""

    host: HostIn
    address: str = Field(max_length=20_000)


class HostTried(Schema):
    """What a host says of a film; ``with_options`` is the address of its player with everything that it honours."""

    title: str
    author: str
    width: int
    height: int
    lasts: int = Field(description="In seconds; 0 where it does not say.")
    cover: str
    frame: str
    with_options: str


class FetchIn(Schema):
    """``address`` is that of a file, that of a film at a host that is allowed, or a code that such a host gives."""

    address: str = Field(max_length=20_000)
    folder: int | None = None


class CommonsPicture(Schema):
    id: str
    title: str
    author: str
    licence: str
    alt: str
    width: int
    height: int
    preview: str


class CommonsOut(Schema):
    pictures: list[CommonsPicture]
    more: bool


class CommonsTake(Schema):
    id: str = Field(max_length=200)
    folder: int | None = None


class LibraryEntry(Schema):
    """An item among others. ``uses`` counts the pages that show it or link to it."""

    item: ItemBrief
    added_at: datetime
    added_by: str
    uses: int


class ItemEntry(Schema):
    """An item with everything that is known of it."""

    item: ItemOut
    added_at: datetime
    added_by: str
    uses: int


class LibraryOut(Schema):
    """A part of what was asked for, and whether there is more after it."""

    entries: list[LibraryEntry]
    more: bool


class Counted(Schema):
    total: int


class PageRef(Schema):
    """A page to link to."""

    id: int
    title: str
    path: str
    site: str
    address: str
    state: State


class ItemUse(Schema):
    """A page that shows an item or links to it."""

    page: PageRef
    working: bool = Field(description="As it is being written.")
    live: bool = Field(description="As readers see it.")
    framings: list[Edits] = Field([], description="What is made of a picture there, each way once.")


class TrailEntry(Schema):
    """A page above another."""

    title: str
    path: str


class ToneOut(Schema):
    """A colour for words, with its contrast on each ground where it may be used."""

    name: str
    colour: str
    ratios: dict[str, float]


class RegionOut(Schema):
    """A part of the page that the theme has a place for; the widest pictures in it, in CSS pixels."""

    name: str
    label: str
    column: int
    wide: int


class PaletteOut(Schema):
    tones: list[ToneOut]
    styles: list[str]
    regions: list[RegionOut]


class ClashOut(Schema):
    """A place that two people changed, each in their way. ``theirs`` was saved first, ``mine`` after it: blocks, or the
    words of the title or description. ``theirs_at`` and ``mine_at`` are the paths of the blocks in the working copy as
    it is told with this, where they stand there, or what has become of them by writing on."""

    id: int
    sort: Literal["words", "gone", "attributes", "title", "description"]
    theirs: list[dict[str, Any]] | str
    mine: list[dict[str, Any]] | str
    theirs_at: list[int] | None
    mine_at: list[int] | None
    theirs_by: str
    mine_by: str
    at: datetime


class PageOut(Schema):
    id: int
    site: SiteOut
    path: str
    address: str
    trail: list[TrailEntry] = Field(description="The pages above this one, from the top.")
    working_copy: WorkingCopyOut
    live: LiveOut | None
    items: list[ItemOut]
    pages: list[PageRef]
    palette: PaletteOut
    frame_weight: int = Field(description="What the theme adds to the weight of every page, in bytes.")
    publishers: list[str] = Field(description="Who publishes pages of the site, where one may not.")
    clashes: list[ClashOut] = Field(description="Where two people's wordings stand, and nobody has chosen yet.")


class ChangeOut(Schema):
    change: Literal["set_attributes", "replace_text", "replace_inline", "mark_words", "replace_nodes", "set_fact"]
    path: list[int]
    attrs: dict[str, Any] | None = None
    start: int | None = None
    end: int | None = None
    text: str | None = None
    kind: str | None = None
    count: int | None = None
    nodes: list[Any] | None = None
    name: str | None = None
    value: str | None = None


class MergedOut(Schema):
    """A text that holds what others have changed too. ``changes`` lead to it from the one that was sent; ``items`` and
    ``pages`` are those it names."""

    title: str
    description: str
    document: Document
    changes: list[ChangeOut]
    items: list[ItemOut]
    pages: list[PageRef]


class SaveOut(Schema):
    """``merged`` is the text as it is now, where it is another than the one that was sent. ``twice`` tells that the
    author changed the same words in two windows, and both wordings stand; nobody is asked."""

    revision: int
    saved_at: datetime
    saved_by: str
    live: LiveOut | None
    merged: MergedOut | None
    twice: bool
    clashes: list[ClashOut] = Field(description="Where nobody has chosen yet.")


class WritingIn(Schema):
    """``window`` is a number of the sender's own making; ``block`` the index of the block with the caret."""

    window: UUID4
    block: int | None = Field(None, ge=0, le=1_000_000)


class WritingOut(Schema):
    """Another window in which somebody writes; ``own`` tells that it is the asker's."""

    window: UUID4
    name: str
    own: bool
    block: int | None


class TogetherOut(Schema):
    revision: int
    room: bool = Field(description="Whether the server's disk has room for more than texts.")
    clashes: list[int] = Field(description="By number; see PageOut.")
    others: list[WritingOut]


Severity = Literal["blocks", "mend", "look"]


class CheckIn(Schema):
    """``site`` is that of the page, so that items kept to others are found."""

    document: Document
    site: int | None = None


class RepairOut(Schema):
    """``shows`` are the words that it leaves, where it changes any."""

    label: str
    changes: list[ChangeOut]
    shows: list[str]


class AllowanceOut(Schema):
    """A finding that somebody holds to be right as it is."""

    id: int
    check: str
    key: str
    sentence: str
    reason: str
    at: datetime
    by: str


class FindingOut(Schema):
    """``key`` is what it is known by while the page is changed elsewhere; ``together`` tells that the first repairs of
    all findings of its check may be done at once."""

    check: str
    title: str
    sentence: str
    whom: str
    source: str
    severity: Severity
    path: list[int]
    span: list[int] | None
    key: str
    together: bool
    repairs: list[RepairOut]
    allowed: AllowanceOut | None = None


class MeasureOut(Schema):
    words: int
    seconds: int = Field(description="To read the words.")
    weight: int = Field(description="Of the page and its pictures, in bytes.")
    ease: float | None = Field(description="Flesch's reading ease; null where the language is not scored.")
    grade: float | None = Field(description="Kincaid's grade, in years at school.")


class CheckOut(Schema):
    findings: list[FindingOut]
    measure: MeasureOut
    shown_title: str = Field(description="The title as search results and windows show it.")


class ResultOut(Schema):
    """What the page check found last on a page."""

    page: PageRef
    blocks: int
    mend: int
    look: int
    first: str = Field(description="What is found first of what weighs most.")
    checked_at: datetime
    changed: bool = Field(description="Whether the page has changed since.")


class ResultsOut(Schema):
    pages: int = Field(description="How many pages the site has.")
    checked: int = Field(description="How many of them were ever checked.")
    results: list[ResultOut]


class RenewIn(Schema):
    after: int = Field(0, ge=0, le=2**53, description="The number of the page checked last; 0 begins.")


class RenewedOut(Schema):
    after: int
    left: int


class DraftIn(Schema):
    """A text of a page that is being written, saved or not."""

    title: str = Field(max_length=1000)
    description: str = Field(max_length=5000)
    document: Document


class BlocksIn(Schema):
    """Blocks that are to be seen as readers would have them: a document of nothing else."""

    document: Document


class BlockOut(Schema):
    """A block as readers get it, "" where there is nothing for them to see; and the addresses of the scripts that it
    needs."""

    html: str
    scripts: list[str]


class AllowIn(DraftIn):
    """The text in which the finding stands, so that what is not there cannot be allowed."""

    key: str
    reason: str = Field(max_length=5000)


class RuleOut(Schema):
    """A check of the page check, with its page of help."""

    id: str
    group: str
    title: str
    whom: str
    source: str
    severity: Severity
    means: str
    right: str
    wrong_example: str
    right_example: str
    guards_access: bool = Field(description="Whether somebody is shut out where it is not kept (WCAG).")


class SiteChecks(Schema):
    """What a site has chosen: severities in place of the checks' own (null: off), what a page may weigh in kB, and for
    how many years at school a text may ask."""

    severities: dict[str, Severity | None]
    page_budget: int
    hardest_grade: int


class HeardLine(Schema):
    """Something a screen reader says in one go; ``path`` leads to the block on the sheet, null outside the text."""

    says: str
    role: str
    stop: Literal["", "heading", "link", "landmark"]
    level: int
    depth: int
    language: str
    path: list[int] | None


class OutsideLink(Schema):
    """An outside address that pages of a site lead to, and what came of its last test."""

    id: int
    address: str
    state: Literal["untested", "right", "unsure", "gone", "silent"]
    fault: str
    failed: bool
    moved_to: str
    tested_at: datetime | None
    pages: list[PageRef]


class TextOut(Schema):
    title: str
    description: str
    document: Document


class VersionIn(TextIn):
    note: str = Field(max_length=1000)


class VersionOut(Schema):
    """A text that is kept for good. ``note`` is the name it was given, if any."""

    id: int
    reason: Literal["published", "set aside", "named"]
    note: str
    at: datetime
    by: str
    title: str


class EquationIn(Schema):
    latex: str = Field(max_length=5000)
    display: bool = False


class EquationOut(Schema):
    mathml: str


class SignOut(Schema):
    text: str
    name: str


class HeadingOut(Schema):
    level: int
    text: str
    anchor: str


class PublishIn(Schema):
    revision: int


class ShelfOut(Schema):
    """What the Shelf found: pictures and documents of the library, and pages of all sites."""

    pictures: list[ItemOut]
    documents: list[ItemOut]
    pages: list[PageRef]


class Problem(Schema):
    """A problem document (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    pointer: str | None = None
    findings: list[FindingOut] | None = None
    place: int | None = None
    received: int | None = None


class Told(Schema):
    """What was done to a text on its way in."""

    kept: list[str] = Field(description="As in “3 headings”.")
    mended: list[str]
    dropped: list[str]


Container = Literal["region", "list_item", "quotation_words", "aside", "table_cell", "table_header", "line"]


class Landing(Schema):
    """Where a text is to stand: in what kind of block, under a heading of which level, beside which anchors."""

    container: Container = "region"
    under: int = Field(1, ge=1, le=6)
    taken: list[str] = Field([], max_length=5000, description="Anchors that the page has already.")


class PasteIn(Landing):
    """What is on the clipboard. ``plain`` asks for the words and their paragraphs, nothing mended."""

    html: str = ""
    text: str = ""
    rtf: str = Field("", description="The same as Rich Text Format, which holds the pictures that HTML only names.")
    plain: bool = False
    pictures: list[int] = Field([], max_length=200, description="Items for pictures that came without their bytes.")


class ArrivedOut(Schema):
    """Blocks to be put in, with the items and pages that they name."""

    document: Document
    read_as: Literal["html", "md", "txt", "docx", "odt"]
    title: str | None
    told: Told
    items: list[ItemOut]
    pages: list[PageRef]


class Caret(Schema):
    """A place in a document: the path of a block of words, and a position in it as the editor counts."""

    path: list[int] = Field(max_length=50)
    position: int = Field(ge=0)


class SourceIn(Schema):
    document: Document
    caret: Caret | None = None


class SourceOut(Schema):
    """The page's HTML; ``caret`` in UTF-16 code units from its start."""

    html: str
    caret: int | None


class SourceReadIn(Schema):
    html: str
    caret: int | None = Field(None, ge=0)


class SourceNote(Schema):
    """Something of the source that will not come through as written."""

    start: int
    end: int
    sort: Literal["removed", "changed", "wrong"]
    sentence: str


class SourceReadOut(Schema):
    document: Document
    notes: list[SourceNote]
    caret: Caret | None
    items: list[ItemOut]
    pages: list[PageRef]


class CueRow(Schema):
    """Words that are shown from ``begin`` to ``end``, in milliseconds; ``name`` and ``settings`` are the identifier and
    the settings of WebVTT."""

    begin: int = Field(ge=0)
    end: int = Field(ge=0)
    text: str = Field(max_length=4000)
    speaker: str = Field("", max_length=400)
    name: str = Field("", max_length=400)
    settings: str = Field("", max_length=400)


class Stretch(Schema):
    """A part of a film, in milliseconds."""

    begin: int
    end: int


CaptionSort = Literal["captions", "descriptions", "chapters"]
Language = Annotated[str, Field(max_length=35, pattern=r"^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$")]


class CaptionsBrief(Schema):
    """The captions of an item in one language, without their cues."""

    id: int
    item: int
    sort: CaptionSort
    language: str
    name: str = Field(description="What the language calls itself, for whoever chooses.")
    number: int = Field(description="How many cues there are.")
    revision: int
    drafted: bool = Field(description="Whether nobody has held them against the film since they were drafted.")
    earlier_file: bool = Field(description="Whether they were checked with an earlier file of the item.")
    saved_at: datetime
    saved_by: str
    given: str = Field(description="The address of the file that readers get; empty while they get none.")
    given_at: datetime | None
    differs: bool = Field(description="Whether they have been changed since readers got them.")


class CaptionsOut(CaptionsBrief):
    """The same with its cues, and where the film is loud."""

    cues: list[CueRow]
    loud: list[Stretch]


class CaptionsBegun(Schema):
    sort: CaptionSort = "captions"
    language: Language
    cues: list[CueRow] = Field([], max_length=20_000)


class CaptionsSaved(Schema):
    """Captions written on from a ``revision``. ``drafted`` false says that they were held against the film."""

    revision: int
    cues: list[CueRow] = Field(max_length=20_000)
    language: Language | None = None
    drafted: bool | None = None


class CuesIn(Schema):
    cues: list[CueRow] = Field(max_length=20_000)


class CaptionRepair(Schema):
    """The cues from ``first`` to ``last``, both included, as they are after it."""

    label: str
    first: int
    last: int
    cues: list[CueRow]


class CaptionNoteOut(Schema):
    rule: str
    sentence: str
    cue: int
    at: int = Field(description="In milliseconds.")
    severity: Literal["mend", "look"]
    repair: CaptionRepair | None


class CaptionNotes(Schema):
    """What is wrong with cues: the first of it, and how much there is."""

    notes: list[CaptionNoteOut]
    total: int


class WordsIn(Schema):
    words: str = Field(max_length=400_000)


class CuesRead(Schema):
    """Cues out of a file or a transcript, and what was mended or left out."""

    cues: list[CueRow]
    language: str = ""
    told: list[str] = []


class TranscriptOut(Schema):
    paragraphs: list[str]


class ItemTranscript(TranscriptOut):
    """The transcript that readers get of a film; no paragraphs while they have no captions."""

    name: str
    language: str


class StillIn(Schema):
    at: int = Field(ge=0, le=99_999_999, description="In milliseconds.")
