"""Films elsewhere: at which hosts they may be, and what a host says of one (oEmbed 1.0).

- `hosts`: a host that films may be at, and which host an address belongs to
- `codes`: the address out of a code that a host gives to be pasted
- `answers`: what a host says of a film, as JSON or XML; where it says it, by discovery
- `posts`: what is kept of a post: words, time, pictures
- `frames`: the address of the frame that plays it, which is taken out of the answer, judged, and written by us

Nothing here opens a connection; no HTML of a host is kept or written.
"""

from .answers import Hosted, endpoints_in, read_answer
from .codes import address_in
from .frames import frame_address
from .hosts import FilmHost, HostError, host_of, origin_of, question_for
from .posts import Posted, kept_of, read_post, title_of

__all__ = [
    "FilmHost",
    "HostError",
    "Hosted",
    "Posted",
    "address_in",
    "endpoints_in",
    "frame_address",
    "host_of",
    "kept_of",
    "origin_of",
    "question_for",
    "read_answer",
    "read_post",
    "title_of",
]
