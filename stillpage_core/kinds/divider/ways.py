"""How a divider goes out and comes in."""

from __future__ import annotations

from ..ways import Ways

WAYS = {
    "divider": Ways(
        markdown=lambda _, __: "***",
        text=lambda _, __: "* * *",
        docx=lambda writer, _, __: writer.paragraph("HorizontalLine", ""),
        odt=lambda writer, _, __: writer.paragraph("Horizontal_20_Line", ""),
    )
}
