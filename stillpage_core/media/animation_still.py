"""One frame of an animation as a picture (PNG).

Run as a program, `python -m stillpage_core.media.animation_still FILE PLACE WIDTH OUT`, since it looks at files of
strangers. PLACE is the share of its time, from 0 to 1.
"""

from __future__ import annotations

import sys
from pathlib import Path


def main() -> int:
    """Write the frame; the status is 1 where it cannot be drawn."""
    from PIL import Image  # noqa: PLC0415 - nobody else who imports the core needs it
    from rlottie_python.rlottie_wrapper import LottieAnimation  # noqa: PLC0415 - nobody else who imports the core needs it

    file, place, across, out = sys.argv[1:5]
    with LottieAnimation.from_data(Path(file).read_text("utf-8")) as animation:
        width, height = animation.lottie_animation_get_size()
        frames = animation.lottie_animation_get_totalframe()
        if not (width and height and frames):
            return 1
        size = (int(across), max(1, round(int(across) * height / width)))
        frame = min(frames - 1, int(float(place) * frames))
        drawn = animation.lottie_animation_render(frame_num=frame, width=size[0], height=size[1])
        # What is half seen through was multiplied with that; a picture has its colours plain.
        picture = Image.frombuffer("RGBA", size, drawn, "raw", "BGRa", 0, 1)
        picture.save(out, "PNG", optimize=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
