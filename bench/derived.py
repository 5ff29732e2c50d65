"""Files of 50 photographs of 12 megapixels, beside the bare encoder calls: python -m bench.derived

Needs no server. Both write the same sizes in the same formats with the same settings; the bare calls know nothing of
cuts, plans, profiles or rows: they open, shrink from the original each time, and encode. Taken by turns, photograph by
photograph. Memory is the largest this process has had, after the fifth and after the last photograph.
"""

from __future__ import annotations

import io
import resource
import time

import numpy as np
from PIL import Image

from stillpage_core.media.editing import Cut
from stillpage_core.media.pictures import JPEG
from stillpage_core.media.plan import plan

from .common import ARGUMENTS, SMALL, aim

COUNT = 50
WIDTH, HEIGHT = 4000, 3000


def photograph(seed: int) -> bytes:
    """A JPEG of 12 megapixels with detail of every size, as a camera writes it."""
    chance = np.random.default_rng(seed)
    pixels = np.zeros((HEIGHT, WIDTH, 3), np.float32)
    for cells in (5, 40, 320):
        grid = chance.integers(0, 256, (cells, cells, 3), dtype=np.uint8)
        pixels += np.asarray(Image.fromarray(grid).resize((WIDTH, HEIGHT), Image.Resampling.BICUBIC), np.float32) / 3
    pixels += chance.normal(0, 4, (HEIGHT, WIDTH, 1)).astype(np.float32)
    out = io.BytesIO()
    Image.fromarray(np.clip(pixels, 0, 255).astype(np.uint8)).save(out, "JPEG", quality=90)
    return out.getvalue()


def ours(data: bytes) -> int:
    """What the worker does for a photograph; returns the bytes made."""
    from stillpage.library.making import made, opened  # noqa: PLC0415

    with opened(io.BytesIO(data), JPEG) as picture:
        return sum(len(each) for _, each in made(picture, Cut(), plan(*picture.size)))


def bare(data: bytes) -> int:
    """The same files by Pillow's own calls alone."""
    from stillpage.library.making import QUALITY  # noqa: PLC0415

    picture = Image.open(io.BytesIO(data))
    picture.load()
    size = 0
    for each in plan(*picture.size):
        out = io.BytesIO()
        small = picture.resize((each.width, each.height), Image.Resampling.LANCZOS)
        small.save(out, each.form.name.upper(), **QUALITY[each.form.mime])
        size += out.tell()
    return size


def megabytes() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def main() -> None:
    """Measure and print."""
    count = 1 if SMALL else int(ARGUMENTS[0]) if ARGUMENTS else COUNT
    took = {"ours": 0.0, "bare": 0.0}
    sizes = {"ours": 0, "bare": 0}
    first = 0.0
    for seed in range(count):
        data = photograph(seed)
        for name, act in (("ours", ours), ("bare", bare))[:: 1 if seed % 2 else -1]:
            begun = time.perf_counter()
            sizes[name] += act(data)
            took[name] += time.perf_counter() - begun
        if seed == min(4, count - 1):
            first = megabytes()
    files = len(plan(WIDTH, HEIGHT))
    print(f"{count} photographs of {WIDTH} × {HEIGHT} pixels, {files} files each")
    for name, seconds in took.items():
        made = sizes[name] / 1e6
        print(f"{name}   {seconds / count:6.2f} s a photograph, {count / seconds:5.2f} a second, {made:7.1f} MB made")
    print(f"throughput, ours to bare   {took['bare'] / took['ours']:.2f}")
    print(f"memory after the fifth {first:.0f} MB, after the last {megabytes():.0f} MB")
    aim("throughput beside the bare calls", took["bare"] / took["ours"], least=0.8)
    aim("memory after the last beside after the fifth", megabytes() / first, most=1.1)


if __name__ == "__main__":
    main()
