"""Films and sounds: what their bytes say they are, what may come in, and what is made of them.

The bytes decide the format, and the format the one demuxer that may read them: a playlist that names other files or
addresses is none of these formats, whatever it is called. What a file holds is told by ffprobe's JSON; this module runs
nothing itself.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from .pictures import FileError, Format

MP4 = Format("MP4", "video/mp4", "mp4")
MOV = Format("MOV", "video/quicktime", "mov")
WEBM = Format("WebM", "video/webm", "webm")
OGG = Format("Ogg", "video/ogg", "ogv")
MP3 = Format("MP3", "audio/mpeg", "mp3")
M4A = Format("M4A", "audio/mp4", "m4a")
OGA = Format("Ogg", "audio/ogg", "oga")
WEBA = Format("WebM", "audio/webm", "weba")
WAV = Format("WAV", "audio/wav", "wav")
FLAC = Format("FLAC", "audio/flac", "flac")
FILMS = (MP4, MOV, WEBM, OGG)
SOUNDS = (MP3, M4A, OGA, WEBA, WAV, FLAC)

DEMUXERS = {
    MP4: "mov",
    MOV: "mov",
    M4A: "mov",
    WEBM: "matroska",
    WEBA: "matroska",
    OGG: "ogg",
    OGA: "ogg",
    MP3: "mp3",
    WAV: "wav",
    FLAC: "flac",
}
"""The demuxer of ffmpeg that reads each format, and no other."""

_SOUND_ALONE = {MP4: M4A, MOV: M4A, WEBM: WEBA, OGG: OGA}

LONGEST = 4 * 3600
"""The longest a film or a sound may be, in seconds."""
LARGEST_SIDE = 8192
SMALLEST_SIDE = 16
"""The most and the fewest pixels of a film across or down."""
MOST_LINES = 1080
"""The most lines of what readers get; a film of fewer keeps them."""
FEW_LINES = 480
"""The lines of the file for phones."""
ENOUGH = 6_000_000
"""Bits a second from which on a film is made smaller, even where every browser plays it."""

_WOULD_DO = "Films may be MP4, MOV, WebM or Ogg, sounds MP3, M4A, Ogg, WAV or FLAC."


class FilmError(FileError):
    """Bytes that cannot become a film or a sound of the library; the sentence says why and what would do."""


def sniff_film(start: bytes) -> Format | None:
    """The format of a film or a sound from the first bytes of a file (4 kB are plenty); None where it is neither.

    Whether an MP4, WebM or Ogg file holds pictures, its streams tell: see `facts_of`. Signatures as in the WHATWG MIME
    Sniffing Standard, 6.2; brands as in ISO/IEC 14496-12, 4.3; EBML's DocType as in RFC 8794, 11.2.

    Raises:
        FilmError: when it is one of a sort that is not taken.
    """
    if start[4:8] == b"ftyp":
        brand = start[8:12]
        if brand in (b"avif", b"avis", b"heic", b"heix", b"mif1", b"msf1"):
            return None
        return MOV if brand == b"qt  " else M4A if brand.startswith(b"M4A") else MP4
    if start[4:8] in (b"moov", b"mdat", b"wide") and len(start) > 16:
        return MOV
    if start.startswith(b"\x1aE\xdf\xa3"):
        if b"webm" in start[:64]:
            return WEBM
        raise FilmError(f"This is a Matroska file, which browsers do not play. {_WOULD_DO}")
    if start.startswith(b"OggS\x00"):
        return OGG
    if start.startswith(b"fLaC"):
        return FLAC
    if start.startswith(b"RIFF") and start[8:12] == b"WAVE":
        return WAV
    if start.startswith(b"ID3") or _is_frame(start):
        return MP3
    if start.startswith(b"RIFF") and start[8:12] == b"AVI ":
        raise FilmError(f"This is an AVI file, which browsers do not play. {_WOULD_DO}")
    if start.startswith((b"#EXTM3U", b"ffconcat")):
        raise FilmError(f"This is a list that names other files, and no film itself. {_WOULD_DO}")
    return None


def _is_frame(start: bytes) -> bool:
    """Whether an MP3 begins at once with a frame (ISO/IEC 11172-3, 2.4.2.3): its sync, layer III, and a bit rate."""
    return len(start) > 4 and start[0] == 0xFF and start[1] & 0xE6 == 0xE2 and start[2] >> 4 != 15


@dataclass(frozen=True)
class Facts:
    """What a file holds. ``width`` and ``height`` are in pixels as it is seen: upright, of square pixels; 0 of a sound.

    ``lasts`` is in milliseconds, ``rate`` in bits a second. ``plain`` tells that the pictures need no change of shape,
    colour or direction. ``channels`` is 0 where nothing is heard.
    """

    form: Format
    lasts: int
    width: int = 0
    height: int = 0
    video: str = ""
    audio: str = ""
    channels: int = 0
    rate: int = 0
    plain: bool = True
    bright: bool = False
    """Of a wider range of light than screens have (HDR)."""

    @property
    def is_film(self) -> bool:
        return self.width > 0


def facts_of(form: Format, probed: Mapping[str, Any]) -> Facts:
    """What a file holds, from what ``ffprobe -show_streams -show_format -of json`` said of it.

    Raises:
        FilmError: when nothing can be played, or more than can be taken; with a sentence.
    """
    streams = [each for each in probed.get("streams", []) if isinstance(each, dict)]
    video = next((each for each in streams if each.get("codec_type") == "video" and not _is_cover(each)), None)
    audio = next((each for each in streams if each.get("codec_type") == "audio" and each.get("codec_name")), None)
    about = probed.get("format", {})
    own = [_number(each.get("duration")) for each in (video, audio) if each]
    # What is neither seen nor heard, such as a second sound or a list of chapters, may last longer.
    lasts = max(own) if own and all(own) else max(_number(about.get("duration")), *own, 0.0)
    if video is None and audio is None:
        raise FilmError(f"Nothing in this file can be seen or heard. It may be damaged. {_WOULD_DO}")
    if lasts <= 0:
        raise FilmError("This file does not say how long it is. It may be damaged; save it again and try once more.")
    if lasts > LONGEST:
        raise FilmError(f"This lasts {lasts / 3600:.1f} hours; {LONGEST // 3600} hours are the most that is taken.")
    sound = {"audio": str(audio["codec_name"]), "channels": int(_number(audio.get("channels")))} if audio else {}
    rate, milliseconds = int(_number(about.get("bit_rate"))), max(1, round(lasts * 1000))
    if video is None:
        return Facts(_SOUND_ALONE.get(form, form), milliseconds, rate=rate, **sound)  # type: ignore[arg-type]
    if form in SOUNDS and form is not M4A:
        raise FilmError(f"This says it is a sound, but holds pictures that move. {_WOULD_DO}")
    if not video.get("codec_name") or video["codec_name"] == "unknown":
        raise FilmError(f"The pictures of this film are coded in a way that cannot be read here. {_WOULD_DO}")
    width, height = int(_number(video.get("width"))), int(_number(video.get("height")))
    if max(width, height) > LARGEST_SIDE or min(width, height) < SMALLEST_SIDE:
        raise FilmError(
            f"This film declares pictures of {width:,} × {height:,} pixels; {SMALLEST_SIDE} to {LARGEST_SIDE:,} across "
            "and down can be taken. Save it in another size."
        )
    across, _, down = str(video.get("sample_aspect_ratio", "1:1")).partition(":")
    shape = _number(across) / _number(down) if _number(across) and _number(down) else 1.0
    turned = _turned(video)
    seen = (max(1, round(width * shape)), height)
    bright = video.get("color_transfer") in ("smpte2084", "arib-std-b67")
    plain = not turned and abs(shape - 1) < 0.001 and not bright and video.get("pix_fmt") in ("yuv420p", "yuvj420p")
    return Facts(
        MP4 if form is M4A else form,
        milliseconds,
        *(seen[::-1] if turned % 180 else seen),
        video=str(video["codec_name"]),
        rate=rate,
        plain=plain,
        bright=bright,
        **sound,  # type: ignore[arg-type]
    )


def _is_cover(stream: Mapping[str, Any]) -> bool:
    """Whether a stream of pictures is one picture that goes along with a sound."""
    return bool(stream.get("disposition", {}).get("attached_pic"))


def _number(value: object) -> float:
    try:
        number = float(str(value))
    except ValueError:
        return 0.0
    return number if 0 <= number < 1e15 else 0.0


def _turned(stream: Mapping[str, Any]) -> int:
    """By how many degrees a film is turned to stand upright."""
    for each in stream.get("side_data_list", []):
        if "rotation" in each:
            return int(float(each["rotation"])) % 360
    return int(_number(stream.get("tags", {}).get("rotate"))) % 360


@dataclass(frozen=True)
class Making:
    """A file to be made of a film or sound: what it is called, its format, its size (0 of a sound), and what ffmpeg is
    told between the name of the original and that of the file. ``instead`` tells that it is kept only where it is
    smaller than the file of that name."""

    name: str
    form: Format
    width: int
    height: int
    arguments: tuple[str, ...]
    instead: str = ""


NO_NAMES = ("-map_metadata", "-1", "-map_chapters", "-1")
"""Nothing that was said of the original goes along: neither where it was filmed, nor by whom."""
_IN_TIME = ("-af", "aresample=async=1")
"""Times that leave a gap or go back, as what a busy machine records has them: silence fills it, and what comes twice in
one time is left out."""
_AAC = (*_IN_TIME, "-c:a", "aac", "-b:a", "128k", "-ar", "48000")
_OPUS = (*_IN_TIME, "-c:a", "libopus", "-b:a", "96k", "-ar", "48000")
_FIRST_STREAMS = ("-map", "0:V:0", "-map", "0:a:0?", "-sn", "-dn")
_SOUND_STREAM = ("-map", "0:a:0", "-vn", "-sn", "-dn")
_INDEX_FIRST = ("-movflags", "+faststart", "-f", "mp4")


def sized(facts: Facts, lines: int) -> tuple[int, int]:
    """Width and height of a film with at most so many lines on its shorter side; both are even, as codecs want it."""
    scale = min(1.0, lines / min(facts.width, facts.height), LARGEST_SIDE / 2 / max(facts.width, facts.height))
    width, height = (max(2, round(side * scale / 2) * 2) for side in (facts.width, facts.height))
    return width, height


def is_fit(facts: Facts) -> bool:
    """Whether every browser plays the original as it is: it is only put in order then, not coded anew."""
    return (
        facts.form in (MP4, MOV)
        and facts.video == "h264"
        and facts.audio in ("aac", "")
        and facts.channels <= 2
        and facts.plain
        and min(facts.width, facts.height) <= MOST_LINES
        and 0 < facts.rate <= ENOUGH
    )


def plan_of(facts: Facts) -> list[Making]:
    """The files to make, those that readers need first first."""
    return _plan_of_film(facts) if facts.is_film else _plan_of_sound(facts)


def _plan_of_film(facts: Facts) -> list[Making]:
    whole, small = sized(facts, MOST_LINES), sized(facts, FEW_LINES)
    if is_fit(facts):
        copied = ("-c", "copy", *_FIRST_STREAMS, *NO_NAMES, *_INDEX_FIRST)
        plan = [Making("film", MP4, facts.width, facts.height, copied)]
    else:
        plan = [Making("film", MP4, *whole, _coded(facts, whole))]
    if min(whole) > FEW_LINES * 5 // 4:
        plan.append(Making("small", MP4, *small, _coded(facts, small)))
    vp9 = ("-c:v", "libvpx-vp9", "-crf", "34", "-b:v", "0", "-deadline", "realtime", "-cpu-used", "6", "-row-mt", "1")
    webm = (*_FIRST_STREAMS, *NO_NAMES, "-vf", _shape(facts, whole), "-pix_fmt", "yuv420p", *vp9, *_heard(facts, _OPUS))
    plan.append(Making("film", WEBM, *whole, (*webm, "-f", "webm"), instead="film"))
    return plan


def _coded(facts: Facts, size: tuple[int, int]) -> tuple[str, ...]:
    h264 = ("-c:v", "libx264", "-preset", "veryfast", "-crf", "23", "-profile:v", "high", "-pix_fmt", "yuv420p")
    shape = ("-vf", _shape(facts, size), "-fps_mode", "vfr")
    return (*_FIRST_STREAMS, *NO_NAMES, *shape, *h264, *_heard(facts, _AAC), *_INDEX_FIRST)


def _heard(facts: Facts, codec: tuple[str, ...]) -> tuple[str, ...]:
    if not facts.channels:
        return ()
    return (*codec, "-ac", str(min(2, facts.channels)))


def _shape(facts: Facts, size: tuple[int, int]) -> str:
    """Upright (ffmpeg turns films itself), of square pixels, in the range of light that screens have."""
    mapped = (
        "zscale=t=linear:npl=100,format=gbrpf32le,zscale=p=bt709,tonemap=hable:desat=0,"
        "zscale=t=bt709:m=bt709:r=tv,format=yuv420p,"
    )
    return f"{mapped if facts.bright else ''}scale={size[0]}:{size[1]}:flags=bicubic,setsar=1"


def _plan_of_sound(facts: Facts) -> list[Making]:
    stereo = ("-ac", str(min(2, max(1, facts.channels))))
    return [
        Making("sound", M4A, 0, 0, (*_SOUND_STREAM, *NO_NAMES, *_AAC, *stereo, *_INDEX_FIRST)),
        Making("sound", OGA, 0, 0, (*_SOUND_STREAM, *NO_NAMES, *_OPUS, *stereo, "-f", "ogg"), instead="sound"),
    ]


STILLS = (10, 50, 90)
"""The moments from which covers are offered, in percent of the film."""


def still_moments(facts: Facts) -> Sequence[int]:
    """The same in milliseconds."""
    return [facts.lasts * share // 100 for share in STILLS]


def levels_of(printed: str) -> list[float]:
    """The loudness of each step in dB of full scale, from what ffmpeg's ``ametadata=print`` printed of ``astats``."""
    found = []
    for line in printed.splitlines():
        if line.startswith("lavfi.astats.Overall.RMS_level="):
            value = line.partition("=")[2]
            found.append(max(-90.0, float(value)) if value.lstrip("-").replace(".", "", 1).isdigit() else -90.0)
    return found
