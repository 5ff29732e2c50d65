"""SVG: what may be shown of it, and why something is refused.

A drawing is taken when it holds nothing but shapes, text, paint and pictures written into it. Notes of the program that
made it are left out. What runs, or reaches outside, is refused with the reason: whoever sends it knows best whether the
drawing can do without.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from lxml import etree

from .pictures import PictureError, check_size

SVG_NAMESPACE = "http://www.w3.org/2000/svg"
_XLINK = "{http://www.w3.org/1999/xlink}"
_XML = "{http://www.w3.org/XML/1998/namespace}"

LARGEST = 4 * 1024 * 1024
"""The most bytes of a drawing; what is larger is a photograph traced into lines, and better sent as one."""

_ELEMENTS = frozenset(
    """svg g defs symbol use title desc path rect circle ellipse line polyline polygon text tspan textPath image switch
    linearGradient radialGradient stop pattern clipPath mask marker style filter feBlend feColorMatrix
    feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting feDisplacementMap feDistantLight feDropShadow
    feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feImage feMerge feMergeNode feMorphology feOffset
    fePointLight feSpecularLighting feSpotLight feTile feTurbulence view""".split()
)
"""Elements of SVG 2 that only draw."""
_REFUSED = {
    "script": "a script, which could run on readers' screens",
    "foreignObject": "a piece of another page",
    "a": "a link",
    "animate": "an animation",
    "animateMotion": "an animation",
    "animateTransform": "an animation",
    "set": "an animation",
    "audio": "a sound",
    "video": "a video",
    "iframe": "a framed page",
}
_WITHIN = re.compile(r"data:image/(?:png|jpeg|gif|webp);base64,[A-Za-z0-9+/=\s]*")
_URL = re.compile(r"url\((?!\s*['\"]?\s*#)", re.IGNORECASE)
_USED = re.compile(r"url\(\s{0,9}['\"]?\s{0,9}#([^'\")\s]{1,200})", re.IGNORECASE)
_FUNCTIONS = frozenset(
    """url rgb rgba hsl hsla hwb lab lch oklab oklch color color-mix var calc min max clamp matrix matrix3d translate
    translatex translatey scale scalex scaley rotate skewx skewy skew blur brightness contrast drop-shadow grayscale
    hue-rotate invert opacity saturate sepia inset circle ellipse polygon path not is where nth-child nth-of-type
    nth-last-child first-child lang local format cubic-bezier steps""".split()
)
"""The functions of CSS that name colours, numbers, shapes or movements (CSS Color 4, Transforms 1, Filter Effects 1,
Shapes 1). Others (`image-set`, `image`, `src` …) can name a file."""
_NAME = re.compile(r"[A-Za-z0-9_-]*\Z")
_LENGTH = re.compile(r"\s*([0-9]*\.?[0-9]+)(px|pt|mm|cm|in)?\s*")
_PIXELS = {None: 1.0, "": 1.0, "px": 1.0, "pt": 96 / 72, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0}
"""CSS pixels to a unit (CSS Values and Units 3, 6.2)."""
MOST_DRAWN = 100_000
"""The most shapes that are drawn, those counted each time that are drawn again and again by reference."""
_DEEPEST = 100
"""How long a chain of references may be."""
_LARGEST_SIDE = 1_000_000


@dataclass(frozen=True)
class Drawing:
    """A drawing that may be shown: its bytes as they are kept, and its size in CSS pixels."""

    data: bytes
    width: int
    height: int


def read_drawing(data: bytes) -> Drawing:
    """Read an SVG drawing, and leave out what has nothing to do with how it looks.

    Raises:
        PictureError: when it is damaged or too large, or holds something that runs or reaches outside; with the reason.
    """
    if len(data) > LARGEST:
        raise PictureError(f"This drawing (SVG) is larger than {LARGEST // 1024 // 1024} MB. Save it as PNG instead.")
    parser = etree.XMLParser(
        resolve_entities=False, no_network=True, load_dtd=False, remove_comments=True, remove_pis=True
    )
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise PictureError("This says it is an SVG drawing, but it is no proper XML. It may be damaged.") from error
    if b"<!ENTITY" in data:
        raise _refusal("declared entities, with which files of the server could be read")
    if root.tag != f"{{{SVG_NAMESPACE}}}svg":
        raise PictureError("This is no picture that can be read: it holds a drawing (SVG), but is something else.")
    for element in list(root.iter()):
        _judge(element)
    _judge_amount(root)
    width, height = _size(root)
    check_size(width, height)
    if "viewBox" not in root.attrib:
        root.set("viewBox", f"0 0 {width} {height}")
    root.set("width", str(width))
    root.set("height", str(height))
    etree.cleanup_namespaces(root)
    return Drawing(etree.tostring(root, encoding="utf-8"), width, height)


def _refusal(what: str) -> PictureError:
    return PictureError(f"This SVG drawing holds {what}. Take that out, or save it as PNG instead.")


def _judge_amount(root: etree._Element) -> None:
    """Refuse a drawing that draws too much: a few lines can say, by references within references, that something is to
    be drawn a million times (“billion laughs”), and no page shows anything until that is done."""
    named = {str(element.get("id")): element for element in root.iter() if element.get("id")}
    amounts: dict[etree._Element, int] = {}
    waiting: list[tuple[etree._Element, bool]] = [(root, False)]
    begun: set[etree._Element] = set()
    chain = 0
    while waiting:
        element, ready = waiting.pop()
        parts = [*element, *_referred(element, named)]
        if ready:
            chain -= 1
            # What refers to itself, by however many others, is not drawn (SVG 2, 5.6).
            amounts[element] = min(1 + sum(amounts.get(each, 0) for each in parts), MOST_DRAWN + 1)
            if amounts[element] > MOST_DRAWN:
                raise _refusal(f"more than {MOST_DRAWN:,} shapes, some of them drawn again and again by reference")
        elif element not in begun:
            begun.add(element)
            chain += 1
            if chain > _DEEPEST * 4:
                raise _refusal(f"references within references, more than {_DEEPEST} deep")
            waiting.append((element, True))
            waiting += [(each, False) for each in parts if each not in begun]


def _referred(element: etree._Element, named: dict[str, etree._Element]) -> list[etree._Element]:
    """The elements that are drawn where this one is: by `use`, as pattern, mask, marker, clip or filter."""
    found = [element.get(f"{_XLINK}href") or element.get("href") or ""]
    names = [each.strip()[1:] for each in found if each.strip().startswith("#")]
    for value in element.attrib.values():
        if "(" in value:
            names += _USED.findall(str(value))
    return [named[name] for name in names if name in named]


def _judge(element: etree._Element) -> None:
    """Refuse what runs or reaches outside; take away what is no part of the drawing."""
    tag = element.tag
    if not isinstance(tag, str):
        raise _refusal("an entity")
    namespace, _, name = tag.rpartition("}")
    if name in _REFUSED:
        raise _refusal(_REFUSED[name])
    parent = element.getparent()
    if namespace != f"{{{SVG_NAMESPACE}" or name not in _ELEMENTS:
        # Its tail is words only within text, where no stranger stands.
        if parent is not None:
            parent.remove(element)
        return
    if name == "style":
        _judge_css(element.text or "")
    for key, value in [(str(key), str(value)) for key, value in element.attrib.items()]:
        plain = key.removeprefix(_XLINK)
        if plain.lower().startswith("on"):
            raise _refusal(f"a script (“{plain[:40]}”), which could run on readers' screens")
        if plain == "href":
            _judge_reference(name, value)
        elif key.startswith("{") and key not in _KEPT and not key.startswith(_XLINK):
            # With them goes xml:base, which would have “#a” mean something elsewhere.
            del element.attrib[key]
        else:
            _judge_css(value)


_KEPT = (f"{_XML}space", f"{_XML}lang")


def _judge_reference(name: str, value: str) -> None:
    inside = value.strip().startswith("#") or (name in ("image", "feImage") and _WITHIN.fullmatch(value.strip()))
    if not inside:
        raise _refusal(f"a reference to something outside it (“{value.strip()[:60]}”)")


def _judge_css(css: str) -> None:
    plain = css.lower()
    if "\\" in css or "@import" in plain or _URL.search(css) or "javascript:" in plain:
        raise _refusal("a style that reaches outside it")
    place = plain.find("(")
    while place >= 0:
        name = _NAME.search(plain, max(0, place - 40), place)
        if name and name[0] and name[0].strip("-") not in _FUNCTIONS:
            raise _refusal(f"a style that may reach outside it (“{name[0]}”)")
        place = plain.find("(", place + 1)


def _size(root: etree._Element) -> tuple[int, int]:
    """Width and height in CSS pixels (SVG 2, 8.2 and 8.12): as declared, or as the view box has them, or 300 by 150."""
    written = root.get("viewBox", "")[:200]
    box = [float(each) for each in re.findall(r"-?[0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]+)?", written)]
    view = (box[2], box[3]) if len(box) == 4 and box[2] > 0 and box[3] > 0 else None
    if view and not all(1 / _LARGEST_SIDE < each < _LARGEST_SIDE for each in view):
        raise PictureError("The size of this drawing (SVG) is no usable one. Save it anew, or as PNG.")
    width, height = (_pixels(root.get(name, "")) for name in ("width", "height"))
    if width and height:
        return max(1, round(width)), max(1, round(height))
    if view is None:
        return max(1, round(width or 300)), max(1, round(height or 150))
    if width or height:
        scale = width / view[0] if width else (height or 0) / view[1]
        return max(1, round(view[0] * scale)), max(1, round(view[1] * scale))
    return max(1, round(view[0])), max(1, round(view[1]))


def _pixels(length: str) -> float | None:
    match = _LENGTH.fullmatch(length[:40])
    found = float(match[1]) * _PIXELS[match[2]] if match and len(length) <= 40 else None
    return found if found is None or found < _LARGEST_SIDE else _LARGEST_SIDE
