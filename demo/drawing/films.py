"""Makes the demo's film, its recording and their captions: python -m demo.drawing.films, with ffmpeg and espeak-ng.

A lock is drawn from the side, frame by frame; what is said is spoken by a synthesiser, and stands in the captions at
the time it is heard. The files are committed; run this after changing a text.
"""

from __future__ import annotations

import subprocess
import tempfile
import wave
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

from PIL import Image, ImageDraw

from stillpage_core.media.captions import Cue, write_webvtt

FOLDER = Path(__file__).parent.parent / "films"
WIDTH, HEIGHT, RATE = 960, 540, 12
TAIL = 2.0
"""Seconds after the last word."""

SAID = (
    (0.6, "This is how a boat goes up through a lock."),
    (4.4, "First see that the lock is empty.\nThen open the bottom gates, and steer in."),
    (11.0, "Close the gates behind the boat."),
    (14.4, "Now open the top sluices,\nbut only a quarter at first."),
    (19.2, "The water comes in from above.\nKeep the boat back from the top gate."),
    (26.0, "When the water is level,\nthe top gates open almost by themselves."),
    (32.0, "Off you go. And close everything\nbehind you, please."),
)
"""What is said in the film, and from which second on."""
IN_WELSH = (
    (0.6, 3.4, "Dyma sut mae cwch yn mynd i fyny drwy loc."),
    (4.4, 10.6, "YN GYNTAF RHAID I’R LOC FOD YN WAG"),
    (10.2, 13.0, "Caewch y giatiau ar ôl y cwch."),
    (14.4, 18.6, "Nawr agorwch y llifddorau uchaf, ond dim ond chwarter i ddechrau."),
    (26.0, 31.0, "Pan fydd y dŵr yn wastad,\nagorwch y giatiau uchaf"),
)
"""The same begun in Welsh, with faults to be mended: capitals, an overlap, a line too long, a sentence without its end,
words that are missing."""
WARDEN = (
    (0.3, "I walk from Lock Nine to the aqueduct,\nevery Tuesday."),
    (4.6, "Most days nothing happens.\nThat is what a warden is for."),
    (9.4, "In January I found a swan\nasleep on the top gate."),
    (14.2, "We both waited until it woke."),
)

STONE, DARK, EARTH = (150, 122, 104), (70, 58, 52), (118, 128, 84)
SKY, WATER, GATE = (206, 224, 232), (84, 132, 150), (92, 66, 44)
HULL, ROOF, WINDOW = (146, 44, 40), (222, 214, 196), (244, 232, 180)
LEFT, RIGHT, UPPER, LOWER, BED = 330, 690, 210, 390, 470


def level_at(second: float) -> float:
    """Where the water of the chamber stands, in pixels from the top."""
    share = min(1.0, max(0.0, (second - 16.5) / 10.0))
    return LOWER - (LOWER - UPPER) * (share * share * (3 - 2 * share))


def boat_at(second: float) -> float:
    """The middle of the boat, in pixels from the left."""
    legs = ((0.0, -140.0), (6.5, -140.0), (10.5, 470.0), (31.0, 470.0), (35.5, 1120.0))
    for (begin, start), (end, stop) in pairwise(legs):
        if second <= end:
            share = (second - begin) / (end - begin)
            return start + (stop - start) * share * share * (3 - 2 * share)
    return legs[-1][1]


def frame(second: float) -> Image.Image:
    """The lock from the side at a moment, twice as large as it is shown."""
    picture = Image.new("RGB", (WIDTH * 2, HEIGHT * 2), SKY)
    draw = ImageDraw.Draw(picture)

    def box(left: float, top: float, right: float, bottom: float, colour: tuple[int, int, int]) -> None:
        draw.rectangle((left * 2, top * 2, right * 2, bottom * 2), colour)

    box(0, 180, WIDTH, HEIGHT, EARTH)
    box(0, 300, LEFT, HEIGHT, EARTH)
    box(0, 175, LEFT, LOWER, SKY)
    level = level_at(second)
    box(0, LOWER, LEFT, BED, WATER)
    box(LEFT, 175, RIGHT, BED, DARK)
    box(LEFT, level, RIGHT, BED, WATER)
    box(RIGHT, UPPER, WIDTH, UPPER + 90, WATER)
    box(RIGHT, UPPER + 90, WIDTH, HEIGHT, STONE)
    box(0, BED, RIGHT, HEIGHT, STONE)
    for row in range(BED, HEIGHT, 18):
        draw.line((0, row * 2, RIGHT * 2, row * 2), DARK, 2)
    opened = 5.0 <= second <= 11.5
    if not opened:
        box(LEFT - 8, 185, LEFT + 8, BED, GATE)
    if second < 30.0:
        box(RIGHT - 8, 185, RIGHT + 8, UPPER + 90, GATE)
    if 16.0 <= second <= 27.0:
        for drop in range(12):
            at = (second * 90 + drop * 23) % 70
            spot = (RIGHT - 16 - at * 0.7, UPPER + 70 + at * 1.4)
            draw.ellipse((spot[0] * 2, spot[1] * 2, spot[0] * 2 + 10, spot[1] * 2 + 10), (214, 234, 240))
    middle = boat_at(second)
    floats = LOWER if middle < LEFT else level if middle < RIGHT else UPPER
    hull = ((-120, -16), (128, -16), (108, 18), (-112, 18))
    draw.polygon([((middle + x) * 2, (floats + y) * 2) for x, y in hull], HULL)
    box(middle - 92, floats - 44, middle + 70, floats - 16, ROOF)
    for window in range(5):
        spot = middle - 78 + window * 30
        draw.ellipse((spot * 2, (floats - 38) * 2, (spot + 14) * 2, (floats - 24) * 2), WINDOW)
    return picture.resize((WIDTH, HEIGHT), Image.Resampling.LANCZOS)


def spoken(said: tuple[tuple[float, str], ...], folder: Path, voice: str) -> list[tuple[float, float, Path]]:
    """Each sentence as a file, with its begin and its end; one that takes long has the next wait."""
    found: list[tuple[float, float, Path]] = []
    for number, (wanted, words) in enumerate(said):
        begin = max(wanted, found[-1][1] + 0.3) if found else wanted
        file = folder / f"{voice}-{number}.wav"
        text = words.replace("\n", " ")
        subprocess.run(["espeak-ng", "-v", voice, "-s", "128", "-w", str(file), text], check=True)
        with wave.open(str(file)) as opened:
            found.append((begin, begin + opened.getnframes() / opened.getframerate(), file))
    return found


def mixed(parts: list[tuple[float, float, Path]], lasts: float, target: Path, ground: str) -> None:
    """The sentences at their times, over a ground of noise."""
    inputs = [each for _, _, file in parts for each in ("-i", str(file))]
    delays = "".join(f"[{n}]adelay={round(begin * 1000)}:all=1[v{n}];" for n, (begin, _, _) in enumerate(parts))
    names = "".join(f"[v{n}]" for n in range(len(parts)))
    whole = f"{ground},atrim=duration={lasts}[g];{delays}{names}[g]amix=inputs={len(parts) + 1}:normalize=0,volume=0.9"
    order = [*inputs, "-filter_complex", whole, "-ac", "1", "-ar", "44100", "-t", str(lasts), str(target)]
    subprocess.run(["ffmpeg", "-v", "error", "-y", *order], check=True)


def frames(lasts: float) -> Iterator[bytes]:
    for number in range(int(lasts * RATE)):
        yield frame(number / RATE).tobytes()


def captions(parts: list[tuple[float, float, Path]], said: tuple[tuple[float, str], ...], speaker: str) -> list[Cue]:
    """The cues of what is said; each stays for as long as it takes to read where the next leaves room."""
    begins = [begin for begin, _, _ in parts[1:]] + [parts[-1][1] + TAIL]
    return [
        Cue(round(begin * 1000), round(min(end + 0.9, following - 0.1) * 1000), words, speaker if not number else "")
        for number, ((begin, end, _), (_, words), following) in enumerate(zip(parts, said, begins, strict=True))
    ]


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made)
        parts = spoken(SAID, folder, "en-gb")
        lasts = round(parts[-1][1] + TAIL, 1)
        mixed(parts, lasts, folder / "sound.wav", "anoisesrc=color=brown:amplitude=0.02:sample_rate=44100")
        order = ["-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{WIDTH}x{HEIGHT}", "-r", str(RATE), "-i", "-"]
        order += ["-i", str(folder / "sound.wav"), "-c:v", "libx264", "-crf", "27", "-preset", "slow"]
        order += ["-pix_fmt", "yuv420p"]
        order += ["-c:a", "aac", "-b:a", "64k", "-movflags", "+faststart", "-shortest"]
        file = FOLDER / "how-to-work-a-lock.mp4"
        with subprocess.Popen(["ffmpeg", "-v", "error", "-y", *order, str(file)], stdin=subprocess.PIPE) as ffmpeg:
            assert ffmpeg.stdin is not None
            for each in frames(lasts):
                ffmpeg.stdin.write(each)
            ffmpeg.stdin.close()
        english = write_webvtt(captions(parts, SAID, "Lock-keeper"), language="en")
        (FOLDER / "how-to-work-a-lock.en.vtt").write_text(english, encoding="utf-8")
        welsh = [Cue(round(begin * 1000), round(end * 1000), words) for begin, end, words in IN_WELSH]
        (FOLDER / "how-to-work-a-lock.cy.vtt").write_text(write_webvtt(welsh, language="cy"), encoding="utf-8")
        parts = spoken(WARDEN, folder, "en-gb-scotland")
        lasts = round(parts[-1][1] + 0.6, 1)
        mixed(parts, lasts, folder / "warden.wav", "anoisesrc=color=pink:amplitude=0.004:sample_rate=44100")
        file = FOLDER / "a-warden-on-her-round.m4a"
        subprocess.run(
            ["ffmpeg", "-v", "error", "-y", "-i", str(folder / "warden.wav"), "-c:a", "aac", "-b:a", "64k", str(file)],
            check=True,
        )
        warden = write_webvtt(captions(parts, WARDEN, "Warden"), language="en")
        (FOLDER / "a-warden-on-her-round.en.vtt").write_text(warden, encoding="utf-8")


if __name__ == "__main__":
    main()
