"""Makes the films of the stand-in host: python -m demo.drawing.headgate, with ffmpeg.

Each goes slowly across one of the demo's pictures, to the sound of water. The files are committed; run this after
changing which pictures are gone across.
"""

from __future__ import annotations

import subprocess
from pathlib import Path

from standins.films import FOLDER, catalogue

PICTURES = Path(__file__).parent.parent / "pictures"
RATE = 12


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    for film in catalogue():
        frames = film["lasts"] * RATE
        across = f"(iw-iw/zoom)*on/{frames}"
        moves = f"scale=2560:-1,zoompan=z=1.5:x='{across}':y='(ih-ih/zoom)/2':d={frames}:s=640x360:fps={RATE}"
        target = FOLDER / f"{film['id']}.mp4"
        order = ["-i", str(PICTURES / film["of"]), "-f", "lavfi", "-i", "anoisesrc=color=brown:amplitude=0.05"]
        order += ["-vf", moves, "-t", str(film["lasts"]), "-c:v", "libx264", "-crf", "31", "-preset", "slow"]
        order += ["-pix_fmt", "yuv420p", "-c:a", "aac", "-b:a", "32k", "-ac", "1", "-movflags", "+faststart"]
        subprocess.run(["ffmpeg", "-v", "error", "-y", *order, str(target)], check=True)
        cover = ["-i", str(target), "-frames:v", "1", "-q:v", "4", str(FOLDER / f"{film['id']}.jpg")]
        subprocess.run(["ffmpeg", "-v", "error", "-y", *cover], check=True)


if __name__ == "__main__":
    main()
