"""A picture that is asked to be wider than the original. Common practice: smaller, never larger."""

from __future__ import annotations

from collections.abc import Iterator

from ...document.changes import SetAttributes
from ...media.pictures import SVG
from ...media.shown import picture_cut
from ..finding import CheckRule, Finding, Repair
from ..subject import Subject
from .shown import pictures

RULE = CheckRule(
    id="picture-enlarged",
    title="A picture wider than its original",
    whom="Everybody: it would be blurred. It is shown in its own size instead, smaller than was asked for.",
    source="Common practice",
    severity="look",
    means="The picture has fewer pixels than the width it was given. The page never shows a picture larger than it is.",
    right="Let it have its own width, or take a larger original.",
)


def check(subject: Subject) -> Iterator[Finding]:
    for use in pictures(subject):
        wanted, target = use.node.attrs["width"], use.target
        if not wanted or not target.files or any(file.mime == SVG.mime for file in target.files):
            continue
        own = picture_cut(target, use.node.attrs).size(target.width, target.height)[0]
        if wanted > own:
            yield RULE.finding(
                f"The picture is to be {wanted} pixels wide, but what is shown of it has only {own}.",
                use.path,
                None,
                Repair("Let it have its own width", (SetAttributes(use.path, {"width": None}),)),
            )
