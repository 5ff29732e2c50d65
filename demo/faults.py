"""A page on which nearly everything is wrong that the page check knows of: somebody's first try, pasted together."""

from __future__ import annotations

from stillpage_core.document import Node
from stillpage_core.document.node import Mark, document_of, make, text_node

TITLE = "Untitled"
PATH = "/volunteer/new-page"


def _words(text: str, *marks: Mark) -> Node:
    return text_node(text, marks)


def _paragraph(*content: Node | str, **attrs: str) -> Node:
    return make("paragraph", [_words(each) if isinstance(each, str) else each for each in content], **attrs)


def _link(href: str, *, new_window: bool = False) -> Mark:
    return Mark("link", {"href": href, "title": None, "new_window": new_window})


def _heading(level: int, text: str) -> Node:
    return make("heading", [_words(text)] if text else [], level=level)


def _item(text: str) -> Node:
    return make("list_item", [_paragraph(text)])


def _row(*cells: str, header: bool = False) -> Node:
    kind = "table_header" if header else "table_cell"
    return make("table_row", [make(kind, [_paragraph(each) if each else make("paragraph")]) for each in cells])


def _table(*rows: Node) -> Node:
    return make("table", [make("table_grid", rows)])


def faulty(pages: dict[str, int], items: dict[str, int], gone: str) -> Node:
    """The text; ``pages`` by path and ``items`` by name are the numbers it leads to, ``gone`` an outside address
    where there is nothing."""
    strong, underline = Mark("strong"), Mark("underline")
    line = make("line_break")
    form, walks = _link(f"item:{items['boat-licence-form']}"), _link(f"page:{pages['/visit/towpath-walks']}")
    here = _link(f"page:{pages['/contact']}")
    return document_of(
        [
            _paragraph("Thank you you are coming to the spring work party.  This page says what to do."),
            make("paragraph"),
            make("paragraph"),
            _heading(3, "BEFORE YOU COME"),
            _paragraph("Please bring:", line, "- gloves", line, "- boots", line, "- a packed lunch"),
            _paragraph("Write to the warden, ", _words("click here", here), ", or read ", _words("more", walks), "."),
            _paragraph(_words("https://canal.example/forms/licence", form)),
            _heading(2, ""),
            _paragraph(_words("Where we meet", strong)),
            _paragraph(
                "Wharf car park",
                line,
                line,
                "Meet at the old crane. DO NOT PARK BEFORE THE GATE, please. ",
                _words("Nobody can get out otherwise.", underline),
            ),
            make("picture", item=items["IMG_20260412_0081"]),
            make("picture", item=items["stone-bridge"], alt="Picture of the stone bridge", caption="The stone bridge"),
            make("picture", item=items["towpath-in-autumn"], alt="IMG_4711.jpg", width=3000),
            _heading(2, "Lock 4"),
            _paragraph("W e l c o m e to the gates."),
            make("bulleted_list", [_item("Shut the lower gates")]),
            _heading(2, "Lock 5"),
            make("bulleted_list", [_item("Open the paddles"), _item("Wait")]),
            make("paragraph"),
            make("bulleted_list", [_item("Open the gates")]),
            _heading(2, "The sixth lock"),
            _paragraph("Gloves", line, "Boots", line, "A torch"),
            _table(_row("Lock", "Rise"), _row("Lock 4", "2.1 m"), _row("Lock 5", "2.4 m")),
            _table(_row("", "Monday", header=True), _row("Lock 6", "closed")),
            _heading(2, "Who helps"),
            _paragraph(
                "Le samedi, les amis du canal de la vallée sont avec nous, et ils parlent de leur travail dans le club."
            ),
            _paragraph(_words("Quiet words.", Mark("tone", {"name": "mist"}))),
            _paragraph(
                "The work party begins at nine and ends when the light goes, and in between there is time for tea, "
                "for the tools to be shared out among those who know how to use them and those who want to learn, "
                "and for a short talk on what not to do when the water is high and the wind comes from the west."
            ),
            _paragraph(
                "See the ",
                _words("boat licence form", form),
                ", the ",
                _words("towpath walks", _link(f"page:{pages['/visit/towpath-walks']}", new_window=True)),
                ", the ",
                _words("old list of locks", _link(gone)),
                " and ",
                _words("our prices", _link("page:999999999")),
                _words(" ", here),
                ".",
            ),
            _heading(4, "Who helps"),
            _paragraph("Ask a warden."),
            make("equation", latex=r"Q = \frac{V"),
            make("call_to_action", [_words("Come along")], href=None),
        ],
    )
