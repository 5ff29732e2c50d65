"""A film of 60 s and 720 lines made ready, beside the bare ffmpeg calls: python -m bench.converting

Needs no server. Both write the same files with the same settings; the bare calls have no limits, tell no progress, and
write where they please. Taken by turns, the least of each: what else a machine does comes on top. Memory is the most
that any program had that was run for a film of 15 s, and then for one of 60 s.
"""

from __future__ import annotations

import os
import resource
import subprocess
import tempfile
import time
from pathlib import Path

from .common import ARGUMENTS, SMALL, aim

SECONDS = 2 if SMALL else int(ARGUMENTS[0]) if ARGUMENTS else 60
ROUNDS = 1 if SMALL else 3
SIZE = "320x180" if SMALL else "1280x720"


def film(path: Path, seconds: int) -> Path:
    """A film that no browser plays as it is, with movement and a sound."""
    pictures = f"testsrc2=size={SIZE}:rate=25:duration={seconds}"
    sound = f"sine=frequency=440:beep_factor=4:duration={seconds}"
    inputs = ["-f", "lavfi", "-i", pictures, "-f", "lavfi", "-i", sound]
    subprocess.run(["ffmpeg", "-v", "error", *inputs, "-c:v", "mpeg4", "-q:v", "4", "-y", path], check=True)
    return path


def ours(path: Path, folder: Path) -> int:
    """What the worker makes of a film; returns the bytes made."""
    from stillpage.library.converting import convert, probe  # noqa: PLC0415
    from stillpage_core.media.films import MOV, plan_of  # noqa: PLC0415

    facts = probe(path, MOV)
    size = 0
    for each in plan_of(facts):
        target = folder / f"ours-{each.name}.{each.form.ending}"
        convert(path, facts, each, target, lambda share: True)
        size += target.stat().st_size
    return size


def bare(path: Path, folder: Path) -> int:
    """The same files by ffmpeg's own calls alone."""
    from stillpage.library.converting import probe  # noqa: PLC0415
    from stillpage_core.media.films import MOV, plan_of  # noqa: PLC0415

    size = 0
    for each in plan_of(probe(path, MOV)):
        target = folder / f"bare-{each.name}.{each.form.ending}"
        subprocess.run(["ffmpeg", "-v", "error", "-i", path, *each.arguments, "-y", target], check=True)
        size += target.stat().st_size
    return size


def programs_had() -> float:
    """The most memory that any program had which was run and has ended, in MB."""
    return resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024


def main() -> None:
    """Measure and print."""
    os.environ |= {"DJANGO_SETTINGS_MODULE": "stillpage.settings", "STILLPAGE_SECRET_KEY": "for the benchmark only"}
    took: dict[str, list[float]] = {"ours": [], "bare": []}
    sizes = {"ours": 0, "bare": 0}
    with tempfile.TemporaryDirectory(prefix="stillpage-bench-") as made:
        folder = Path(made)
        ours(film(folder / "short.mov", max(1, SECONDS // 4)), folder)
        first = programs_had()
        path = film(folder / "whole.mov", SECONDS)
        for turn in range(ROUNDS):
            for name, act in (("ours", ours), ("bare", bare))[:: 1 if turn % 2 else -1]:
                begun = time.perf_counter()
                sizes[name] = act(path, folder)
                took[name].append(time.perf_counter() - begun)
            if turn == 0:
                last = programs_had()
    least = {name: min(seconds) for name, seconds in took.items()}
    for name, seconds in least.items():
        made_of_it = sizes[name] / 1e6
        print(f"{name}   {seconds:6.1f} s, {SECONDS / seconds:5.2f} times as fast as it plays, {made_of_it:6.1f} MB")
    print(f"memory of a film of {max(1, SECONDS // 4)} s {first:.0f} MB, of one of {SECONDS} s {last:.0f} MB")
    aim("throughput beside the bare calls", least["bare"] / least["ours"], least=0.9)
    aim("memory of a film four times as long", last / first, most=1.1)


if __name__ == "__main__":
    main()
