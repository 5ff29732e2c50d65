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
_URL = re.compile(r"url\(\s*['\"]?\s*(?!#)", re.IGNORECASE)
_LENGTH = re.compile(r"\s*([0-9]*\.?[0-9]+)(px|pt|mm|cm|in)?\s*")
_PIXELS = {None: 1.0, "": 1.0, "px": 1.0, "pt": 96 / 72, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0}
"""CSS pixels to a unit (CSS Values and Units 3, 6.2)."""


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
        elif key.startswith("{") and not key.startswith((_XML, _XLINK)):
            del element.attrib[key]
        else:
            _judge_css(value)


def _judge_reference(name: str, value: str) -> None:
    inside = value.strip().startswith("#") or (name in ("image", "feImage") and _WITHIN.fullmatch(value.strip()))
    if not inside:
        raise _refusal(f"a reference to something outside it (“{value.strip()[:60]}”)")


def _judge_css(css: str) -> None:
    if "\\" in css or "@import" in css.lower() or _URL.search(css) or "javascript:" in css.lower():
        raise _refusal("a style that reaches outside it")


def _size(root: etree._Element) -> tuple[int, int]:
    """Width and height in CSS pixels (SVG 2, 8.2 and 8.12): as declared, or as the view box has them, or 300 by 150."""
    box = [float(each) for each in re.findall(r"-?[0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]+)?", root.get("viewBox", ""))]
    view = (box[2], box[3]) if len(box) == 4 and box[2] > 0 and box[3] > 0 else None
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
    match = _LENGTH.fullmatch(length)
    return float(match[1]) * _PIXELS[match[2]] if match else None
