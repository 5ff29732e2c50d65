"""PDFs made for the tests, with whatever one may have, by a library that is not what reads their pages."""

from __future__ import annotations

from io import BytesIO
from typing import Any

import pikepdf

A4 = (595, 842)


def a_pdf(
    words: str = "",
    *,
    pages: int = 1,
    size: tuple[float, float] = A4,
    title: str = "",
    metadata_title: str = "",
    language: str = "",
    tagged: bool = False,
    form: bool = False,
    script: bool = False,
    owner: str = "",
    password: str = "",
    root: dict[str, Any] | None = None,
) -> bytes:
    """A PDF of so many equal pages, each with these words. With ``owner`` it may not be changed without that password,
    with ``password`` not be opened; ``root`` are entries of its catalogue as they stand."""
    pdf = pikepdf.new()
    font = pikepdf.Dictionary(Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name.Helvetica)
    resources = pdf.make_indirect(pikepdf.Dictionary(Font=pikepdf.Dictionary(F1=font)))
    content = pdf.make_stream(f"BT /F1 24 Tf 60 700 Td ({words}) Tj ET".encode())
    for _ in range(pages):
        page = pdf.add_blank_page()
        page.MediaBox = pikepdf.Array([0, 0, *size])
        page.Resources, page.Contents = resources, content
    if title:
        pdf.docinfo["/Title"] = title
    if metadata_title:
        with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
            metadata["dc:title"] = metadata_title
    if language:
        pdf.Root.Lang = language
    if tagged:
        pdf.Root.MarkInfo = pikepdf.Dictionary(Marked=True)
        pdf.Root.StructTreeRoot = pdf.make_indirect(pikepdf.Dictionary(Type=pikepdf.Name.StructTreeRoot))
    if form:
        field = pikepdf.Dictionary(FT=pikepdf.Name.Tx, T="name", Subtype=pikepdf.Name.Widget, Rect=[0, 0, 100, 20])
        fields = pikepdf.Array([pdf.make_indirect(field)])
        pdf.Root.AcroForm = pdf.make_indirect(pikepdf.Dictionary(Fields=fields))
    if script:
        action = pikepdf.Dictionary(S=pikepdf.Name.JavaScript, JS="app.alert('Good day')")
        names = pikepdf.Dictionary(Names=pikepdf.Array(["greet", pdf.make_indirect(action)]))
        pdf.Root.Names = pikepdf.Dictionary(JavaScript=pdf.make_indirect(names))
    for name, value in (root or {}).items():
        pdf.Root[name] = pikepdf.Object.parse(_as_pdf(value))
    out = BytesIO()
    locks = pikepdf.Encryption(owner=owner or password, user=password) if owner or password else None
    pdf.save(out, encryption=locks or False)
    return out.getvalue()


def _as_pdf(value: Any) -> bytes:
    return {dict: b"<<>>", list: b"[]"}.get(type(value), str(value).encode())
