"""Places that two people changed, each in their way, and where their wordings stand."""

from __future__ import annotations

from collections.abc import Iterator

from stillpage_core.comparing import where_they_stand
from stillpage_core.document import node_from_json
from stillpage_core.errors import Path

from .models import Clash, WorkingCopy


def standing(copy: WorkingCopy) -> Iterator[tuple[Clash, Path | None, Path | None]]:
    """Each clash of a text that nobody has chosen in yet, and the paths of its two wordings in the working copy."""
    open_ = list(Clash.objects.filter(written=copy.written_id).select_related("theirs_by", "mine_by"))
    sides = [(clash, side) for clash in open_ for side in clash.standing_sides]
    kept = [node_from_json(getattr(clash, side)[0]) for clash, side in sides]
    paths = where_they_stand(copy.tree, kept) if kept else []
    found = {(clash.pk, side): path for (clash, side), path in zip(sides, paths, strict=True)}
    for clash in open_:
        yield clash, found.get((clash.pk, "theirs")), found.get((clash.pk, "mine"))
