"""ffprobe and ffmpeg, run on files that strangers sent: by one demuxer, from one local file, within limits.

Neither can be led anywhere: the demuxer is that of the format that the bytes say, only the protocol ``file`` is open,
and no playlist is one of the formats. Each runs with less priority than the server, with its memory, its time and the
size of what it writes limited.
"""

from __future__ import annotations

import json
import logging
import os
import subprocess
import tempfile
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

from django.conf import settings

from stillpage_core.media.films import DEMUXERS, Facts, FilmError, Making, facts_of, levels_of
from stillpage_core.media.loudness import STEP
from stillpage_core.media.pictures import Format

from .apart import limited

_log = logging.getLogger(__name__)
PROBE_SECONDS = 30
ENDED = 255
"""The status with which ffmpeg ends when it was told to, by a signal: that its time is up, or any other."""
SHORT = 2000
"""Milliseconds by which a file may end before the time that it tells of; ends are told roughly."""
MOST_BROKEN = 0.05
"""The share of a film or sound that may be broken. Telephones leave a frame or two that cannot be read."""
_MB = 1024 * 1024


class Cancelled(Exception):
    """Nobody wants the file any more."""


def _limited(seconds: int) -> list[str]:
    return limited(seconds, settings.FILM_MEMORY, settings.FILM_LIMIT * 2)


_ESTIMATED = b"Estimating duration from bitrate"
"""What ffprobe says where it guesses from the size of a file how long it lasts."""


def _input(path: Path, form: Format) -> list[str]:
    return ["-protocol_whitelist", "file", "-f", DEMUXERS[form], "-i", f"file:{path}"]


def probe(path: Path, form: Format) -> Facts:
    """What a file holds.

    Raises:
        FilmError: when nothing of it can be played, with a sentence.
    """
    command = [
        *_limited(PROBE_SECONDS),
        "ffprobe",
        "-v",
        "warning",
        "-show_streams",
        "-show_format",
        "-of",
        "json",
        *_input(path, form),
    ]
    try:
        done = subprocess.run(command, capture_output=True, timeout=PROBE_SECONDS, check=False)  # noqa: S603
        said: Any = json.loads(done.stdout[: 4 * _MB] or b"{}")
    except subprocess.TimeoutExpired as error:
        raise FilmError(
            f"It takes more than {PROBE_SECONDS} s to find out what is in this file. It may be damaged."
        ) from error
    except ValueError as error:
        raise FilmError("This file cannot be read. It may be damaged; save it again and try once more.") from error
    if done.returncode:
        raise FilmError(f"This says it is {form.name}, but cannot be read. It may be damaged, or cut off.")
    about = said.get("format", {})
    told = any("duration" in each for each in (about, *said.get("streams", ())))
    # What a browser records says nowhere how long it is, since it was written while nobody knew; nor does an MP3
    # without a head.
    is_guessed = said.get("streams") and (not told or _ESTIMATED in done.stderr)
    if is_guessed and (measured := _measured(path, form)):
        for each in (about, *said["streams"]):
            each.pop("duration", None)
        about["duration"] = measured
    return facts_of(form, said)


def _measured(path: Path, form: Format) -> str:
    """How long a file lasts, in seconds, by going through it without decoding; "" where it cannot be read."""
    order = ["ffmpeg", "-nostdin", "-hide_banner", "-v", "error", "-progress", "pipe:1", *_input(path, form)]
    command = [*_limited(PROBE_SECONDS), *order, "-map", "0:v?", "-map", "0:a?", "-c", "copy", "-f", "null", "-"]
    try:
        done = subprocess.run(command, capture_output=True, timeout=PROBE_SECONDS, check=False)  # noqa: S603
    except subprocess.TimeoutExpired:
        return ""
    times = [line.partition(b"=")[2] for line in done.stdout.splitlines() if line.startswith(b"out_time_us=")]
    return f"{int(times[-1]) / 1_000_000}" if times and times[-1].isdigit() else ""


def convert(
    path: Path, facts: Facts, each: Making, target: Path, progress: Callable[[float], bool] | None = None
) -> None:
    """Make one file of the plan. ``progress`` is told the share that is done (0 to 1) about twice a second, and says
    whether to go on.

    Raises:
        FilmError: when the file cannot be read to its end, or takes more time or memory than the limits.
        Cancelled: when ``progress`` said no, or somebody ended it.
        OSError: when the disk has no room.
    """
    seconds = settings.FILM_SECONDS
    command = [
        *_limited(seconds),
        "ffmpeg",
        "-nostdin",
        "-hide_banner",
        "-v",
        "error",
        "-max_error_rate",
        str(MOST_BROKEN),
        "-progress",
        "pipe:1",
    ]
    command += [*_input(path, facts.form), *each.arguments, "-y", f"file:{target}"]
    begun = time.monotonic()
    until = 0
    with tempfile.TemporaryFile() as errors:
        process = subprocess.Popen(  # noqa: S603
            command, stdout=subprocess.PIPE, stderr=errors, start_new_session=True
        )
        try:
            until = _watch(process, facts, progress)
        except BaseException:
            process.kill()
            raise
        finally:
            process.wait()
            if process.stdout:
                process.stdout.close()
            if process.returncode:
                target.unlink(missing_ok=True)
        if process.returncode == ENDED and (time.monotonic() - begun) * (os.cpu_count() or 1) < seconds:
            raise Cancelled  # Somebody ended it, as when the machine goes down: its time cannot have been up.
        errors.seek(0)
        said = errors.read(64 * 1024).decode("utf-8", "replace")
        if process.returncode:
            _log.warning("ffmpeg ended with %s: %s", process.returncode, said[-500:])
            _explain(said, process.returncode)
    if facts.lasts - until > SHORT and (end := _cut_off(path, facts, until, said)) is not None:
        target.unlink(missing_ok=True)
        raise FilmError(
            f"This file says that it lasts {_clock(facts.lasts)}, and ends after {_clock(end)}. It may be cut off: "
            "copy it again, whole, and try once more."
        )


def _watch(process: subprocess.Popen[bytes], facts: Facts, progress: Callable[[float], bool] | None) -> int:
    """Tells the progress; returns how far it came, in milliseconds."""
    done = 0
    for line in process.stdout or ():
        name, _, value = line.decode("ascii", "replace").strip().partition("=")
        if name != "out_time_us":
            continue
        with suppress(ValueError):
            done = int(value) // 1000
        if progress is not None and not progress(min(1.0, max(0.0, done / facts.lasts))):
            raise Cancelled
    return done


def _cut_off(path: Path, facts: Facts, until: int, said: str) -> int | None:
    """When a file ends that breaks off before the time that it tells of, in milliseconds; None where it does not.
    ``until`` is how far what was made of it goes.

    The last picture of a film may stand for long, and nothing tells how long: a film is cut off only where the program
    that read it was missing something.
    """
    if facts.is_film and not said:
        return None
    measured = _measured(path, facts.form)
    end = round(float(measured) * 1000) if measured else until
    return end if facts.lasts - end > SHORT else None


def _clock(milliseconds: int) -> str:
    minutes, seconds = divmod(milliseconds // 1000, 60)
    return f"{minutes}:{seconds:02}"


def _explain(said: str, status: int) -> None:
    if "No space left" in said:
        raise OSError(28, "The disk has no room for what is made of this film")
    if "Cannot allocate memory" in said or "failed to map" in said or status in (-6, -11):
        raise FilmError("Making this film ready took more memory than is allowed. Save it in a smaller size.")
    if status in (ENDED, -24, -9):
        raise FilmError("Making this film ready took longer than is allowed. Save it in a smaller size, or in parts.")
    if status == -25 or "File too large" in said:
        raise FilmError("What is made of this film is larger than is allowed. Save it in a smaller size, or in parts.")
    raise FilmError(
        "This file cannot be read to its end. It may be damaged, or cut off. Save it again and try once more."
    )


def still(path: Path, facts: Facts, moment: int) -> bytes:
    """The picture of a film at a moment (milliseconds), upright, as PNG. Where none begins any more, as while the last
    one stands, it is one from before.

    Raises:
        FilmError: when there is none.
    """
    at = f"{moment / 1000:.3f}"
    shape = f"scale={facts.width}:{facts.height},setsar=1"
    taken = ["-map", "0:V:0", "-frames:v", "1", "-fps_mode", "passthrough", "-vf", shape]
    taken += ["-c:v", "png", "-f", "image2pipe", "pipe:1"]
    # To the very moment; else from the whole picture before it, of which films have one every few seconds.
    for seek in (("-ss", at), ("-noaccurate_seek", "-ss", at)):
        begin = [*_limited(60), "ffmpeg", "-nostdin", "-hide_banner", "-v", "error", *seek]
        done = subprocess.run(  # noqa: S603
            [*begin, *_input(path, facts.form), *taken], capture_output=True, timeout=120, check=False
        )
        if done.stdout and not done.returncode:
            return done.stdout
    raise FilmError("There is no picture at this moment of the film.")


def levels(path: Path, facts: Facts) -> list[float]:
    """How loud it is, each `STEP` milliseconds, in dB of full scale; nothing where nothing is heard."""
    if not facts.channels:
        return []
    rate = 8000
    measured = (
        f"aresample={rate}:async=1:first_pts=0,aformat=channel_layouts=mono,asetnsamples={rate * STEP // 1000}:p=0,"
        "astats=metadata=1:reset=1:measure_perchannel=none:measure_overall=RMS_level,"
        "ametadata=print:key=lavfi.astats.Overall.RMS_level:file=pipe\\\\:1"
    )
    seconds = settings.FILM_SECONDS
    command = [*_limited(seconds), "ffmpeg", "-nostdin", "-hide_banner", "-v", "error", *_input(path, facts.form)]
    command += ["-map", "0:a:0", "-af", measured, "-f", "null", "-"]
    done = subprocess.run(  # noqa: S603
        command, capture_output=True, timeout=seconds, check=False
    )
    return levels_of(done.stdout.decode("ascii", "replace"))
