"""Documents for tests: short ways to write them, and hypothesis strategies that make any valid one."""

from __future__ import annotations

from typing import Any

from hypothesis import strategies as st

from stillpage_core.document import document_from_json
from stillpage_core.document.node import Mark, Node, document_of, make, text_node
from stillpage_core.document.normal import normal_form
from stillpage_core.document.tables import squared


def words(text: str, *marks: Mark) -> Node:
    return text_node(text, marks)


def link(href: str, *, title: str | None = None, new_window: bool = False) -> Mark:
    return Mark("link", {"href": href, "title": title, "new_window": new_window})


STRONG, EMPHASIS = Mark("strong"), Mark("emphasis")
PLAIN_MARKS = [Mark(kind) for kind in ("underline", "strike", "superscript", "subscript", "code")]


ABBREVIATION = Mark("abbreviation", {"expansion": "Varrow Canal Trust"})
FRENCH = Mark("language", {"code": "fr"})
TONE = Mark("tone", {"name": "rust"})


def paragraph(*content: Node | str, style: str | None = None, align: str | None = None) -> Node:
    return make("paragraph", _nodes(content), style=style, align=align)


def heading(level: int, *content: Node | str, align: str | None = None, anchor: str | None = None) -> Node:
    return make("heading", _nodes(content), level=level, align=align, anchor=anchor)


def quotation(*blocks: Node, source: str | None = None) -> Node:
    parts = [make("quotation_words", blocks)]
    return make("quotation", parts if source is None else [*parts, make("quotation_source", [text_node(source)])])


def aside(sort: str, *blocks: Node) -> Node:
    return make("aside", blocks, sort=sort)


def cell(*content: Node | str, header: bool = False, across: int = 1, down: int = 1) -> Node:
    blocks = [each if isinstance(each, Node) else paragraph(each) for each in content] or [paragraph()]
    return make("table_header" if header else "table_cell", blocks, colspan=across, rowspan=down)


def table(*rows: list[Node], caption: str | None = None) -> Node:
    parts = [] if caption is None else [make("table_caption", [text_node(caption)])]
    return make("table", [*parts, make("table_grid", [make("table_row", row) for row in rows])])


def equation(latex: str) -> Node:
    return make("equation", latex=latex)


def formula(latex: str, *marks: Mark) -> Node:
    return Node("formula", {"latex": latex}, marks=text_node("-", marks).marks)


def call_to_action(words: str, href: str | None = None, emphasis: str = "main") -> Node:
    return make("call_to_action", [text_node(words)] if words else [], href=href, emphasis=emphasis)


def picture(item: int = 1, alt: str | None = None, **attrs: Any) -> Node:
    return make("picture", item=item, alt=alt, **attrs)


def film(item: int = 2, **attrs: Any) -> Node:
    return make("film", item=item, **attrs)


def downloads(*entries: Node, **attrs: Any) -> Node:
    return make("downloads", entries or [download()], **attrs)


def download(item: int = 7, **attrs: Any) -> Node:
    return make("download", item=item, **attrs)


def gallery(*pictures: Node, **attrs: Any) -> Node:
    return make("gallery", pictures, **attrs)


def slide(shown: Node | None = None, **attrs: Any) -> Node:
    return make("slide", [shown or picture(1)], **attrs)


def bare_slide(**attrs: Any) -> Node:
    return make("slide", [], **attrs)


def slideshow(*slides: Node, **attrs: Any) -> Node:
    return make("slideshow", slides, **attrs)


def further(href: str | None = "page:1", **attrs: Any) -> Node:
    return make("further", href=href, **attrs)


def read_next(*entries: Node, **attrs: Any) -> Node:
    return make("read_next", entries, **attrs)


def paper(item: int = 7, **attrs: Any) -> Node:
    return make("paper", item=item, **attrs)


def animation(item: int = 8, **attrs: Any) -> Node:
    return make("animation", item=item, **attrs)


def post(item: int = 9, **attrs: Any) -> Node:
    return make("post", item=item, **attrs)


def hosted(item: int = 4, **attrs: Any) -> Node:
    return make("hosted", item=item, **attrs)


def sound(item: int = 3, **attrs: Any) -> Node:
    return make("sound", item=item, **attrs)


def divider() -> Node:
    return make("divider")


def preformatted(*lines: str, language: str | None = None) -> Node:
    content: list[Node] = []
    for index, line in enumerate(lines):
        content += [make("line_break")] if index else []
        content += [text_node(line)] if line else []
    return make("preformatted", content, language=language)


def item(*blocks: Node, anchor: str | None = None) -> Node:
    return make("list_item", blocks, anchor=anchor)


def bulleted(*items: Node) -> Node:
    return make("bulleted_list", items)


def numbered(*items: Node, start: int = 1) -> Node:
    return make("numbered_list", items, start=start)


def document(*blocks: Node) -> Node:
    """A document with these blocks in main, and with the regions among them."""
    others = [(block.attrs["name"], block.content) for block in blocks if block.kind == "region"]
    return document_of((block for block in blocks if block.kind != "region"), others)


def region(name: str, *blocks: Node) -> Node:
    return make("region", blocks, name=name)


def body(whole: Node) -> tuple[Node, ...]:
    """The blocks of a document's main region."""
    return whole.content[0].content


def every_kind() -> Node:
    """A document that holds every kind of node and mark, also at edges: empty, nested, last, first, long."""
    long = "The canal winds on between its hedges, and nobody is in a hurry. " * 6
    return document(
        paragraph("Before any heading, ", words("strong", STRONG), " and ", words("stressed", EMPHASIS), "."),
        heading(2, "A main heading"),
        paragraph(long),
        heading(3, "One below, with ", words("a link", link("page:1"))),
        paragraph(
            "Two  spaces, a break", make("line_break"), "and ", words("both", link("https://a.example/"), STRONG)
        ),
        bulleted(
            item(paragraph("one")),
            item(paragraph("two"), numbered(item(paragraph(long)), item(paragraph("b"), paragraph("second")), start=4)),
            item(paragraph("three"), bulleted(item(paragraph("deep"), bulleted(item(paragraph("deeper")))))),
        ),
        picture(1),
        divider(),
        preformatted("one  line", "", "  an indented one"),
        paragraph(*(words(f"{mark.kind} ", mark) for mark in PLAIN_MARKS), words("all", STRONG, *PLAIN_MARKS)),
        paragraph(words("VCT", ABBREVIATION), ", ", words("écluse", FRENCH), ", ", words("rust", TONE)),
        paragraph("Set large, to begin with.", style="lead"),
        paragraph("Set in the middle.", align="centre"),
        paragraph("With a ", words("link away", link("https://a.example/", title="Away", new_window=True)), "."),
        paragraph("Of a fall of ", formula("h"), " metres comes ", formula(r"\sqrt{2 g h}"), "."),
        equation(r"Q = \mu A \sqrt{2 g h}"),
        quotation(paragraph("They shut the gates"), paragraph("and waited."), source="The lock-keeper’s diary"),
        quotation(bulleted(item(paragraph("in a list")))),
        bulleted(item(paragraph("Type this:"), preformatted("open  gate", "", "  wait", language="python"))),
        quotation(paragraph("They wrote"), preformatted("a line", "and another")),
        table([cell("Sign", header=True)], [cell(preformatted("a |b", "  c"))]),
        aside("note", paragraph("Dogs are welcome."), bulleted(item(paragraph("on a lead")))),
        aside("tip", paragraph("Bring a torch."), equation("x^2")),
        aside("warning", paragraph("Deep water."), preformatted("line"), picture(1)),
        table(
            [cell("Lock", header=True), cell("Rise", header=True), cell("How", header=True)],
            [cell("Lock 4", header=True), cell("2.1 m"), cell(paragraph(long))],
            [cell("Staircase", header=True, down=2), cell("3 m", across=2)],
            [cell(bulleted(item(paragraph("upper")))), cell(picture(1), paragraph("second"))],
            caption="Rise of the locks",
        ),
        table([cell("only")]),
        call_to_action("Get a licence", "page:1"),
        call_to_action("Write to us", "mailto:a@b.example", "quiet"),
        call_to_action("Leads nowhere yet"),
        heading(4, "Four", align="end", anchor="the-fourth"),
        numbered(item(paragraph("a")), item(paragraph("b"), picture(1, decorative=True)), start=9),
        heading(5, "Five"),
        paragraph(),
        heading(6, "Six"),
        heading(2, "Two headings in a row"),
        picture(1, "Worded for this page", caption="The gates of Lock 4, <shut>"),
        picture(1, place="start", width=200, caption="Beside the words, with a caption longer than it is wide"),
        paragraph("Words that stand beside a picture, " * 12),
        heading(3, "Below the picture that stands beside words"),
        picture(1, place="end", space="much", border="frame", ratio="1:1", focus="2000,9000"),
        bulleted(item(paragraph("a list beside a picture")), item(paragraph("goes on"))),
        picture(1, place="centre", width=300, border="line", space="none"),
        picture(1, place="wide", caption="Wider than the column", turn=1, straighten=-35, crop="1000,500,8000,9000"),
        picture(1, width=90, space="little", turn=3),
        film(caption="Through Lock 4, <by hand>", transcript="folded"),
        film(place="centre", width=320, border="line", space="little", cover="still-50", loop=True, autoplay=True),
        film(place="wide", transcript="below"),
        sound(),
        sound(caption="A warden tells", transcript="folded", loop=True),
        downloads(download(7, words="The <form>", description="To be filled in & sent."), title="To take away"),
        downloads(download(7), download(7, description="Twice"), new_window=True),
        gallery(picture(1, "Gates", caption="The <gates>, shut"), picture(1, focus="2000,9000"), title="Locks & gates"),
        gallery(picture(1, decorative=True), picture(1, turn=1), form="wall", size="large"),
        slideshow(
            slide(heading="Walk <with> us", words="Every Sunday, from Lock 4.", href="page:1"),
            slide(picture(1, "Worded for this slide", focus="100,9000"), words="Alone"),
            slide(href="https://a.example/"),
            bare_slide(heading="Words alone"),
            name="News of the canal",
            words="over",
        ),
        slideshow(slide(), place="wide", moves=False, stay=9000, change=0, ratio="16:9"),
        read_next(further(why="For <those> who come by train."), further("https://a.example/", words="Their page")),
        read_next(further(words="The walks, told", why="Again & again"), title="And then"),
        paper(caption="As it is <signed>"),
        paper(first=2, last=3, turned=True),
        animation(caption="A lock <fills>", colours="1f4a3d-8a2b3f ffffff-000000", times=3, start="press"),
        animation(alt="Water & gates", place="centre", width=200, speed=50, delay=500, border="line"),
        animation(decorative=True, start="hover"),
        post(pictures="1 2", caption="Said <on> the towpath"),
        post(),
        hosted(caption="How <they> see it", start=90, captions=True, loop=True),
        hosted(place="end", width=300, border="frame", cover="item-1", muted=True),
        hosted(place="wide", space="much"),
        bulleted(item(paragraph("one elsewhere"), hosted())),
        bulleted(item(paragraph("a film in a list"), film(width=200, cover="item-1"))),
        bulleted(item(paragraph("more in a list"), animation(width=200), paper(), post())),
        paragraph("With a note", words("1", link("#a-note"), PLAIN_MARKS[2]), "."),
        numbered(item(paragraph("Measured in a dry summer."), anchor="a-note")),
        paragraph("The end", make("line_break")),
        region(
            "side", heading(3, "At the side"), picture(1, place="wide", caption="Beside the page"), paragraph("Low.")
        ),
        region("foot", bulleted(item(paragraph("At the foot")))),
    )


def every_kind_for(
    page: int,
    item: int,
    played: tuple[int, int, int] | None = None,
    drawn: int | None = None,
    posted: int | None = None,
) -> Node:
    """The same with a real page and real items, and no destination left open, so that it can be published. Without a
    film, a sound and a film elsewhere that are ``played``, and without an animation and a post, those are left out."""
    left_out = (*(() if played else _PLAYED_KINDS), *(() if drawn else ("animation",)), *(() if posted else ("post",)))

    def made(node: Any) -> Any:
        if not isinstance(node, dict):
            kept = [each for each in node if _kind(each) not in left_out] if isinstance(node, list) else node
            return [made(each) for each in kept] if isinstance(node, list) else node
        attrs = {**node.get("attrs", {})}
        if node["type"] in ("picture", "download", "paper"):
            attrs["item"] = item
        elif node["type"] in _PLAYED_KINDS and played:
            attrs["item"] = played[_PLAYED_KINDS.index(node["type"])]
            if attrs.get("cover") == "item-1":
                attrs["cover"] = f"item-{item}"
        elif node["type"] == "post":
            attrs |= {"item": posted, "pictures": attrs["pictures"] and str(item)}
        elif node["type"] == "animation":
            attrs |= {"item": drawn, "alt": attrs["alt"] or "Said"}
        if attrs.get("href", "") == "page:1" or (attrs.get("href", "") is None and node["type"] != "slide"):
            attrs["href"] = f"page:{page}"
        marks = {"marks": [made(mark) for mark in node["marks"]]} if "marks" in node else {}
        content = {"content": made(node["content"])} if "content" in node else {}
        return {**node, **({"attrs": attrs} if attrs else {}), **marks, **content}

    return document_from_json(made(every_kind().to_json()))


def _kind(node: Any) -> str:
    return str(node.get("type", "")) if isinstance(node, dict) else ""


_PLAYED_KINDS = ("film", "sound", "hosted")


def _nodes(content: tuple[Node | str, ...]) -> list[Node]:
    return [text_node(each) if isinstance(each, str) else each for each in content]


_TEXT = st.text(
    st.characters(exclude_categories=("Cc", "Cs")) | st.sampled_from(list(" <>&\"'\u00a0*_`[]#\U0001f9ed")),
    min_size=1,
    max_size=24,
)
_HREFS = st.sampled_from(
    ["page:1", "page:12#before", "item:7", "#a-b", "https://a.example/?q=1&r=2#x", "mailto:a@b.example", "tel:+44-100"]
)
_MARKS = st.lists(
    st.one_of(
        st.sampled_from([STRONG, EMPHASIS, *PLAIN_MARKS, ABBREVIATION, FRENCH, TONE]),
        st.builds(link, _HREFS, title=st.sampled_from([None, 'A "title"']), new_window=st.booleans()),
    ),
    max_size=3,
    unique_by=lambda mark: mark.kind,
)
_INLINE = st.lists(
    st.one_of(
        st.builds(text_node, _TEXT, _MARKS),
        _MARKS.map(lambda marks: Node("line_break", marks=text_node("-", marks).marks)),
        st.builds(formula, st.sampled_from(["x", r"\frac{a}{b}", "a < b & c", "not { an equation"])),
    ),
    max_size=5,
)
_ALIGN = st.sampled_from([None, None, "centre", "end"])
_PARAGRAPHS = st.builds(
    lambda nodes, style, align: paragraph(*nodes, style=style, align=align),
    _INLINE,
    st.sampled_from([None, None, "lead"]),
    _ALIGN,
)
_NAMES = st.none() | _TEXT.filter(lambda text: text.strip() == text)
_PLACES_IN = st.integers(0, 10_000)
SETTINGS = st.fixed_dictionaries(
    {},
    optional={
        "width": st.integers(16, 4000),
        "place": st.sampled_from(("start", "end", "centre", "wide")),
        "space": st.sampled_from(("none", "little", "much")),
        "border": st.sampled_from(("line", "frame")),
        "turn": st.integers(0, 3),
        "straighten": st.integers(-150, 150),
        "crop": st.tuples(_PLACES_IN, _PLACES_IN, st.integers(1, 10_000), st.integers(1, 10_000)).map(
            lambda box: ",".join(map(str, box))
        ),
        "ratio": st.tuples(st.integers(1, 99), st.integers(1, 99)).map(lambda each: f"{each[0]}:{each[1]}"),
        "focus": st.tuples(_PLACES_IN, _PLACES_IN).map(lambda each: f"{each[0]},{each[1]}"),
    },
)
"""How a picture stands and what is made of it: anything that the schema allows."""
_PICTURES = st.builds(
    lambda item, alt, decorative, caption, setting: picture(
        item, alt, decorative=decorative, caption=caption, **setting
    ),
    st.integers(1, 99),
    _NAMES,
    st.booleans(),
    _NAMES,
    SETTINGS,
)


_STANDING = {
    name: st.none() | strategy
    for name, strategy in {
        "width": st.integers(16, 4000),
        "place": st.sampled_from(("start", "end", "centre", "wide")),
        "space": st.sampled_from(("none", "little", "much")),
        "border": st.sampled_from(("line", "frame")),
    }.items()
}
_TRANSCRIPTS = st.sampled_from((None, "below", "folded"))
_PLAYED = st.builds(
    film,
    st.integers(1, 99),
    caption=_NAMES,
    cover=st.sampled_from((None, "still-10", "still-90", "at-0", "at-61000", "item-5")),
    transcript=_TRANSCRIPTS,
    loop=st.booleans(),
    autoplay=st.booleans(),
    **_STANDING,
) | st.builds(sound, st.integers(1, 99), caption=_NAMES, transcript=_TRANSCRIPTS, loop=st.booleans())
_HOSTED = st.builds(
    hosted,
    st.integers(1, 99),
    caption=_NAMES,
    cover=st.sampled_from((None, "item-5")),
    start=st.none() | st.integers(1, 99999),
    captions=st.booleans(),
    muted=st.booleans(),
    loop=st.booleans(),
    **_STANDING,
)
_DOWNLOADS = st.builds(
    lambda entries, title, window: downloads(*entries, title=title, new_window=window),
    st.lists(st.builds(download, st.integers(1, 99), words=_NAMES, description=_NAMES), min_size=1, max_size=3),
    _NAMES,
    st.booleans(),
)
_FILMS = _PLAYED | _HOSTED
_PAPERS = st.builds(
    paper,
    st.integers(1, 99),
    caption=_NAMES,
    first=st.integers(1, 9999),
    last=st.none() | st.integers(1, 9999),
    turned=st.booleans(),
)
_ANIMATIONS = st.builds(
    animation,
    st.integers(1, 99),
    alt=_NAMES,
    decorative=st.booleans(),
    caption=_NAMES,
    speed=st.integers(10, 400),
    times=st.none() | st.integers(1, 100),
    start=st.sampled_from(("view", "hover", "press")),
    delay=st.integers(0, 60_000),
    colours=st.sampled_from((None, "14614a-8a2b3f", "14614a-8a2b3f 000000-ffffff")),
    **_STANDING,
)
_POSTS = st.builds(post, st.integers(1, 99), pictures=st.sampled_from((None, "5", "1 2 3")), caption=_NAMES)
_SHOWN = _FILMS | _PAPERS | _ANIMATIONS | _POSTS
_GALLERIES = st.builds(
    lambda pictures, title, form, size, ratio: gallery(*pictures, title=title, form=form, size=size, ratio=ratio),
    st.lists(_PICTURES, min_size=1, max_size=3),
    _NAMES,
    st.sampled_from(("tiles", "wall")),
    st.sampled_from(("small", "medium", "large")),
    st.sampled_from(("1:1", "4:3")),
)
_READ_NEXT = st.builds(
    lambda entries, title: read_next(*entries, title=title),
    st.lists(st.builds(further, st.none() | _HREFS, words=_NAMES, why=_NAMES), min_size=1, max_size=3),
    _NAMES,
)
_SLIDESHOWS = st.builds(
    lambda slides, name, place, words, moves, stay: slideshow(
        *slides, name=name, place=place, words=words, moves=moves, stay=stay
    ),
    st.lists(
        st.builds(slide, _PICTURES, heading=_NAMES, words=_NAMES, href=st.none() | _HREFS), min_size=1, max_size=3
    ),
    _NAMES,
    st.sampled_from((None, "wide")),
    st.sampled_from(("below", "over")),
    st.booleans(),
    st.integers(2000, 60_000),
)


_PREFORMATTED = st.builds(
    lambda lines, language: preformatted(*lines, language=language),
    st.lists(_TEXT | st.just(""), min_size=1, max_size=4),
    st.sampled_from([None, "python", "c++"]),
)


def _lists(blocks: st.SearchStrategy[Node]) -> st.SearchStrategy[Node]:
    items = st.builds(
        lambda first, rest, anchor: item(first, *rest, anchor=anchor),
        _PARAGRAPHS,
        st.lists(blocks | _PICTURES | _SHOWN | _PREFORMATTED, max_size=2),
        st.sampled_from([None, None, None, "note-a"]),
    )
    several = st.lists(items, min_size=1, max_size=3)
    return st.one_of(
        _PARAGRAPHS,
        several.map(lambda each: bulleted(*each)),
        st.builds(lambda each, start: numbered(*each, start=start), several, st.integers(0, 999_999)),
    )


_HEADINGS = st.builds(
    lambda level, nodes, align, anchor: heading(level, *nodes, align=align, anchor=anchor),
    st.integers(2, 6),
    _INLINE,
    _ALIGN,
    st.sampled_from([None, None, "kept"]),
)
_NESTED = st.recursive(_PARAGRAPHS, _lists, max_leaves=8)
_PARTS = st.lists(_NESTED | _PICTURES | _SHOWN | _PREFORMATTED, min_size=1, max_size=3)
_LATEX = st.sampled_from(["x", r"\sum_{i=1}^{n} x_i", "} <b>"])
_SOURCES = st.none() | _INLINE
_QUOTATIONS = st.builds(
    lambda blocks, source: make(
        "quotation",
        [make("quotation_words", blocks), *([] if source is None else [make("quotation_source", source)])],
    ),
    _PARTS,
    _SOURCES,
)
_CELLS = st.builds(
    lambda blocks, header, across, down: cell(*blocks, header=header, across=across, down=down),
    _PARTS,
    st.booleans(),
    st.sampled_from([1, 1, 2, 3]),
    st.sampled_from([1, 1, 2, 3]),
)
_TABLES = st.builds(
    lambda rows, caption: make(
        "table",
        [
            *([] if caption is None else [make("table_caption", caption)]),
            make("table_grid", squared([make("table_row", row) for row in rows])),
        ],
    ),
    st.lists(st.lists(_CELLS, min_size=1, max_size=3), min_size=1, max_size=3),
    _SOURCES,
)
_CALLS = st.builds(call_to_action, _TEXT | st.just(""), st.none() | _HREFS, st.sampled_from(["main", "quiet"]))
BLOCKS = st.one_of(
    _NESTED,
    _HEADINGS,
    _PICTURES,
    _FILMS,
    _DOWNLOADS,
    _GALLERIES,
    _SLIDESHOWS,
    _READ_NEXT,
    _PAPERS,
    _ANIMATIONS,
    _POSTS,
    _PREFORMATTED,
    st.just(divider()),
    _LATEX.map(equation),
    _QUOTATIONS,
    st.builds(lambda sort, blocks: aside(sort, *blocks), st.sampled_from(["note", "tip", "warning"]), _PARTS),
    _TABLES,
    _CALLS,
)
_REGIONS = st.lists(
    st.builds(
        lambda name, blocks: region(name, *blocks),
        st.sampled_from(["side", "foot", "a-2"]),
        st.lists(BLOCKS, min_size=1, max_size=2),
    ),
    max_size=2,
    unique_by=lambda each: each.attrs["name"],
)
DOCUMENTS = st.builds(
    lambda blocks, regions: normal_form(document(*blocks, *regions)),
    st.lists(BLOCKS, min_size=1, max_size=6),
    st.one_of(st.just([]), st.just([]), _REGIONS),
)
"""Any valid document in normal form."""
