"""What the keys of common layouts type, as xkeyboard-config has it (Debian's xkb-data, read by libxkbcommon).

The table that the components' tests read is made by ``python -m tests.outside.keyboards``.
"""

from __future__ import annotations

import ctypes
import json
from pathlib import Path

TABLE = Path(__file__).resolve().parents[2] / "web" / "tests" / "components" / "layouts.json"

LAYOUTS = {
    "mac": ["us(mac)", "gb(mac)", "fr(mac)", "de(mac)", "it(mac)", "dk(mac)", "no(mac)", "ch(de_mac)", "pt(mac)"],
    "others": [
        *("us(intl)", "gb", "ie", "fr", "be", "de", "at", "ch", "ch(fr)", "it", "es", "latam", "pt", "br", "nl", "dk"),
        *(
            "no",
            "se",
            "fi",
            "is",
            "pl",
            "cz",
            "sk",
            "hu",
            "ro",
            "hr",
            "si",
            "ee",
            "lv",
            "lt",
            "tr",
            "gr",
            "bg",
            "ru",
            "ua",
        ),
    ],
}
"""Those of a Mac type their third and fourth signs with Option, the others with AltGr."""

ROWS = {
    10: [f"Digit{each}" for each in "1234567890"] + ["Minus", "Equal"],
    24: [f"Key{each}" for each in "QWERTYUIOP"] + ["BracketLeft", "BracketRight"],
    38: [f"Key{each}" for each in "ASDFGHJKL"] + ["Semicolon", "Quote", "Backquote"],
    51: ["Backslash"] + [f"Key{each}" for each in "ZXCVBNM"] + ["Comma", "Period", "Slash"],
}
"""The DOM's names of keys, from the first X keycode of each row on (UI Events KeyboardEvent code Values)."""

LEVELS = 4
DEAD = "Dead"


class _Names(ctypes.Structure):
    _fields_ = [(name, ctypes.c_char_p) for name in ("rules", "model", "layout", "variant", "options")]


def _library() -> ctypes.CDLL:
    library = ctypes.CDLL("libxkbcommon.so.0")
    for name in ("xkb_context_new", "xkb_keymap_new_from_names"):
        getattr(library, name).restype = ctypes.c_void_p
    library.xkb_keysym_to_utf32.restype = ctypes.c_uint32
    return library


def signs(layout: str) -> dict[str, list[str]]:
    """What each key types: alone, with Shift, with the third-level key, with both. Dead keys are “Dead”, nothing ""."""
    library = _library()
    name, _, variant = layout.rstrip(")").partition("(")
    names = _Names(b"evdev", b"pc105", name.encode(), variant.encode(), b"")
    context = ctypes.c_void_p(library.xkb_context_new(0))
    keymap = ctypes.c_void_p(library.xkb_keymap_new_from_names(context, ctypes.byref(names), 0))
    if not keymap.value:
        raise LookupError(layout)
    found = {}
    for first, codes in ROWS.items():
        for keycode, code in enumerate(codes, first):
            found[code] = [_sign(library, keymap, keycode, level) for level in range(LEVELS)]
    return found


def _sign(library: ctypes.CDLL, keymap: ctypes.c_void_p, keycode: int, level: int) -> str:
    syms = ctypes.POINTER(ctypes.c_uint32)()
    count = library.xkb_keymap_key_get_syms_by_level(keymap, keycode, 0, level, ctypes.byref(syms))
    if count != 1:
        return ""
    point = library.xkb_keysym_to_utf32(syms[0])
    if point:
        return chr(point) if point >= 32 and point != 127 else ""
    dead = 0xFE50 <= syms[0] <= 0xFE9F
    return DEAD if dead else ""


def table() -> dict[str, dict[str, dict[str, list[str]]]]:
    return {sort: {layout: signs(layout) for layout in layouts} for sort, layouts in LAYOUTS.items()}


def as_text(found: object) -> str:
    """A line for each key, so that a change of one shows."""
    return (
        json.dumps(found, ensure_ascii=False, indent=1)
        .replace(",\n    ", ", ")
        .replace("[\n    ", "[")
        .replace("\n   ]", "]")
        + "\n"
    )


if __name__ == "__main__":
    TABLE.write_text(as_text(table()))
