"""How slideshows go out and come in. The picture of a slide is one as any other."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from html import escape
from typing import TYPE_CHECKING

from ...document.node import Mark, Node, make
from ...document.walking import text_of
from ...media.editing import EDITS
from ...media.shown import Room
from ...reading.html.held import pictures_in, said_in, setting_of
from ...reading.html.marks import leading
from ...references import parse_reference
from ...resolving import PictureTarget, Resolver
from ...writing.html import attribute
from ..picture.ways import alt_shown, element
from ..ways import Ways
from . import SETTING

if TYPE_CHECKING:
    from selectolax.lexbor import LexborNode

    from ...document.naming import Names
    from ...reading.html.blocks import Blocks
    from ...writing.docx import Writer as Docx
    from ...writing.html import File, Published, Storable
    from ...writing.odt import Writer as Odt
    from ...writing.text import Writer as Text

SCRIPT = "slideshow.js"
"""The module of the theme that moves slides and stops them; without it they are a strip that scrolls."""
UNNAMED = "Pictures"
"""What a slideshow is called that nobody has named."""


def _said(node: Node, names: tuple[str, ...] = SETTING) -> str:
    values = {name: "no" if node.attrs[name] is False else node.attrs[name] for name in names}
    return "".join(
        attribute(f"data-{name}", value) for name, value in values.items() if value is not None and value is not True
    )


def _lines(slide: Node, href: str | None, name: str = "") -> str:
    """The two lines of a slide; the first of them that there is leads where the slide does. Without any the link is
    called by ``name``."""
    lines = [("slide-heading", slide.attrs["heading"]), ("slide-words", slide.attrs["words"])]
    if href and not any(words for _, words in lines):
        lines[0] = ("slide-heading", " ")
    made = ""
    for css_class, words in lines:
        if not words:
            continue
        inside = escape(words.strip(), quote=False)
        if href:
            called = attribute("aria-label", name) if name and not inside else ""
            inside, href = f"<a{attribute('href', href)}{called}>{inside}</a>", None
        made += f'<p class="{css_class}">{inside}</p>'
    return made


def _storable(writer: Storable, node: Node) -> str:
    slides = (
        f'<div class="slide">{writer.blocks(each)}{_lines(each, each.attrs["href"])}</div>' for each in node.content
    )
    name = attribute("data-name", node.attrs["name"]) if node.attrs["name"] else ""
    return f'<div class="slideshow"{name}{_said(node)}>{"".join(slides)}</div>'


def _file(writer: File, node: Node) -> str:
    """In a file that stands alone, the storable form with addresses: our reader knows it again."""
    made = ""
    for each in node.content:
        href = writer.address(each.attrs["href"]) if each.attrs["href"] else None
        made += f'<div class="slide">{"".join(map(writer.block, each.content))}{_lines(each, href)}</div>'
    name = attribute("data-name", node.attrs["name"]) if node.attrs["name"] else ""
    return f'<div class="slideshow"{name}{_said(node)}>{made}</div>'


def _shown(writer: Published, node: Node) -> list[tuple[Node, PictureTarget | None]]:
    """The slides of which there is something to see: a picture, or words."""
    found: list[tuple[Node, PictureTarget | None]] = []
    for each in node.content:
        target = writer.resolver.picture(each.content[0].attrs["item"]) if each.content else None
        target = target if target and target.files else None
        if target or text_of(each):
            found.append((each, target))
    return found


def _published(writer: Published, node: Node) -> str:
    """A strip of slides that scrolls, which a module of the theme moves (ARIA Authoring Practices, carousel)."""
    slides = _shown(writer, node)
    if not slides:
        return ""
    name = node.attrs["name"] or UNNAMED
    moves = len(slides) > 1
    inside = "".join(
        f'<div class="slide" role="group" aria-roledescription="slide" aria-label="{number} of {len(slides)}">'
        f"{_slide(writer, node, *each)}</div>"
        for number, each in enumerate(slides, start=1)
    )
    if moves:
        writer.scripts.add(SCRIPT)
    strip = f' tabindex="0" role="group"{attribute("aria-label", f"Slides: {name}")}' if moves else ""
    said = _said(node, ("place", "words", "moves", "stay", "change"))
    role = f' aria-roledescription="carousel"{attribute("aria-label", writer.unique(name))}'
    return f'<section class="slideshow"{role}{said}><div class="slides"{strip}>{inside}</div></section>'


def framed(node: Node, picture: Node) -> dict[str, object]:
    """How a picture stands on a slide, in place of its own: the proportions are the slideshow's, the focal point its
    own."""
    return {"ratio": node.attrs["ratio"], "crop": None, "focus": picture.attrs["focus"], "place": None, "width": None}


def room_within(node: Node, room: Room) -> Room:
    """The room of a slide."""
    across = room.wide if node.attrs["place"] else room.column
    return Room(across, across)


def _slide(writer: Published, node: Node, slide: Node, target: PictureTarget | None) -> str:
    shown, caption = "", ""
    for picture in slide.content:
        caption = picture.attrs["caption"]
        if target:
            shown = element(writer, picture, target, room_within(node, writer.room), **framed(node, picture))
    href = writer.address(slide.attrs["href"]) if slide.attrs["href"] else None
    name = (alt_shown(slide.content[0], target) or target.title) if target else href or ""
    lines = _lines(slide, href, name) + (
        f'<p class="slide-caption">{escape(caption, quote=False)}</p>' if caption else ""
    )
    return shown + (f'<div class="slide-lines">{lines}</div>' if lines else "")


def _text(writer: Text, node: Node) -> str:
    made = [node.attrs["name"]]
    for each in node.content:
        made += [writer.all_of(each.content), each.attrs["heading"], each.attrs["words"]]
    return "\n".join(filter(None, made))


def _said_of(slide: Node) -> Iterator[tuple[str, bool]]:
    """The lines of a slide, and whether each is its heading."""
    for name in ("heading", "words"):
        if slide.attrs[name]:
            yield slide.attrs[name], name == "heading"


def _docx(writer: Docx, node: Node, style: str) -> str:
    made = ""
    for each in node.content:
        made += writer.blocks(each.content, style)
        href = each.attrs["href"]
        for words, strong in _said_of(each):
            run = writer.run(words, "<w:b/>" if strong else "")
            made += writer.paragraph(style, writer.linked(href, run) if href else run)
    return made


def _odt(writer: Odt, node: Node, style: str) -> str:
    made = ""
    for each in node.content:
        made += writer.blocks(each.content, style)
        href = each.attrs["href"]
        for words, strong in _said_of(each):
            run = writer.strong(words) if strong else writer.plain(words)
            made += writer.paragraph(style, writer.linked(href, run) if href else run)
    return made


def _read(into: Blocks, node: LexborNode, _: tuple[Mark, ...], __: int) -> bool:
    """A slideshow of ours: each slide is one picture with two lines. Anything else is read as what it is."""
    reader, slides = into.reader, node.css(".slide")
    made: list[Node] = []
    for each in slides:
        pictures = pictures_in(into, each, "slide-heading", "slide-words", "slide-caption")
        if pictures is None or len(pictures) > 1:
            return False
        if pictures and not reader.exact and (below := said_in(each, ".slide-caption", exact=False)):
            pictures = [pictures[0].with_attrs(caption=reader.told.within(below, 1000, "caption"))]
        lines = {
            "heading": reader.told.within(said_in(each, ".slide-heading", exact=reader.exact), 200, "heading") or None,
            "words": reader.told.within(said_in(each, ".slide-words", exact=reader.exact), 500, "slide") or None,
        }
        made.append(make("slide", pictures, **lines, href=_leads(into, each)))
    if not made and not reader.exact:
        return False
    name = node.attributes.get("data-name") or ("" if reader.exact else node.attributes.get("aria-label")) or ""
    name = reader.told.within("" if name == UNNAMED else name, 200, "name")
    into.pieces.append(make("slideshow", made, name=name or None, **setting_of("slideshow", SETTING, node)))
    return True


def _leads(into: Blocks, slide: LexborNode) -> str | None:
    link = slide.css_first(".slide-heading a, .slide-words a")
    if link is None:
        return None
    href = (link.attributes.get("href") or "").strip()
    known = href if into.reader.exact else leading(into.reader, link, href)
    return known if known and parse_reference(known) else None


def _names(names: Names, node: Node) -> None:
    for each in node.content:
        for picture in each.content:
            shown = {**picture.attrs, **framed(node, picture)}
            names.picture(picture.attrs["item"], {name: shown[name] for name in EDITS})


def _names_of_slide(names: Names, node: Node) -> None:
    if node.attrs["href"]:
        names.link(node.attrs["href"])


def _words(slide: Node) -> str:
    return "\n".join(filter(None, (*(words for words, _ in _said_of(slide)), *map(text_of, slide.content))))


def _loads(node: Node, _: Resolver) -> Iterable[tuple[str, str]]:
    if len(node.content) > 1:
        yield "script-src", "'self'"


WAYS = {
    "slideshow": Ways(
        storable=_storable,
        published=_published,
        file=_file,
        read={"div.slideshow": _read, "section.slideshow": _read},
        markdown=lambda writer, node: writer.led_out(node),
        text=_text,
        docx=_docx,
        odt=_odt,
        names=_names,
        loads=_loads,
        words=lambda node: "\n".join(filter(None, map(text_of, node.content))),
    ),
    "slide": Ways(
        storable=lambda writer, node: "",
        names=_names_of_slide,
        words=_words,
    ),
}
