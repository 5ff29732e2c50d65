"""A film that is larger than the films of a page are to be. Common practice: 10 MB for a film on a page."""

from __future__ import annotations

from collections.abc import Iterator

from ...media.labels import in_words
from ...media.playing import sources
from ..finding import CheckRule, Finding
from ..subject import Subject
from .films import played

RULE = CheckRule(
    id="film-large",
    title="A film that is too large for a page",
    whom="Readers on slow or costly connections, when they press play.",
    source="Common practice",
    severity="look",
    means="What a reader loads who plays the film to its end is more than is set here for films of a page. "
    "It was made as small already as it can be at its size.",
    right="Take a shorter film, or one of fewer pixels; show the part that matters.",
)


def check(subject: Subject) -> Iterator[Finding]:
    most = subject.around.film_limit
    for use in played(subject):
        first = next((each.address for each in sources(use.target) if not each.media), None)
        size = next((file.size for file in use.target.files if file.address == first), 0)
        if most is not None and use.target.kind == "film" and size > most:
            sentence = f"{use.named} has {in_words(size)}; films of a page are to have {in_words(most)} at most."
            yield RULE.finding(sentence, use.path)
