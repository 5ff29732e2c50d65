"""Small DOCX and ODT files, made of the XML of their bodies."""

from __future__ import annotations

import zipfile
from io import BytesIO

W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
R = 'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"'
MC = 'xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006"'
_RELATIONS = "http://schemas.openxmlformats.org/package/2006/relationships"
_OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_ODF = "urn:oasis:names:tc:opendocument:xmlns"
ODT_SPACES = (
    " ".join(
        f'xmlns:{short}="{_ODF}:{name}:1.0"'
        for short, name in {
            "office": "office",
            "text": "text",
            "table": "table",
            "style": "style",
            "draw": "drawing",
            "number": "datastyle",
            "svg": "svg-compatible",
            "fo": "xsl-fo-compatible",
        }.items()
    )
    + ' xmlns:xlink="http://www.w3.org/1999/xlink"'
)


def packed(files: dict[str, str | bytes]) -> bytes:
    """A ZIP of these files."""
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return out.getvalue()


def docx_with(body: str, relations: dict[str, tuple[str, str]] | None = None, **parts: str | bytes) -> bytes:
    """A DOCX with this body. ``relations`` name by id what sort of part is where, beside the body; a part is given
    by its name with ``_`` for the stop before its ending."""
    related = "".join(
        f'<Relationship Id="{identity}" Type="{_OFFICE}/{sort}" Target="{target}"/>'
        for identity, (sort, target) in (relations or {}).items()
    )
    files: dict[str, str | bytes] = {
        "_rels/.rels": f'<Relationships xmlns="{_RELATIONS}"><Relationship Id="a" Type="{_OFFICE}/officeDocument" '
        'Target="word/document.xml"/></Relationships>',
        "word/document.xml": f"<w:document {W} {R} {MC}><w:body>{body}</w:body></w:document>",
        "word/_rels/document.xml.rels": f'<Relationships xmlns="{_RELATIONS}">{related}</Relationships>',
    }
    return packed({**files, **{f"word/{name.replace('_', '.')}": content for name, content in parts.items()}})


def odt_with(body: str, styles: str = "", automatic: str = "") -> bytes:
    """An ODT with this text. ``automatic`` are styles of the text's own, ``styles`` what stands in styles.xml."""
    files: dict[str, str | bytes] = {
        "mimetype": "application/vnd.oasis.opendocument.text",
        "content.xml": f"<office:document-content {ODT_SPACES}><office:automatic-styles>{automatic}"
        f"</office:automatic-styles><office:body><office:text>{body}</office:text></office:body>"
        "</office:document-content>",
        "styles.xml": f"<office:document-styles {ODT_SPACES}>{styles}</office:document-styles>",
    }
    return packed(files)
