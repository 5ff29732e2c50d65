"""Whether words are an address: a scheme, “www.”, or the name of a host under a top-level domain."""

from __future__ import annotations

import re

_COUNTRIES = frozenset(
    """
    ac ad ae af ag ai al am ao aq ar as at au aw ax az ba bb bd be bf bg bh bi bj bm bn bo br bs bt bv bw by
    bz ca cc cd cf cg ch ci ck cl cm cn co cr cu cv cw cx cy cz de dj dk dm do dz ec ee eg er es et eu fi fj
    fk fm fo fr ga gb gd ge gf gg gh gi gl gm gn gp gq gr gs gt gu gw gy hk hm hn hr ht hu id ie il im in io
    iq ir is it je jm jo jp ke kg kh ki km kn kp kr kw ky kz la lb lc li lk lr ls lt lu lv ly ma mc md me mg
    mh mk ml mm mn mo mp mq mr ms mt mu mv mw mx my mz na nc ne nf ng ni nl no np nr nu nz om pa pe pf pg ph
    pk pl pm pn pr ps pt pw py qa re ro rs ru rw sa sb sc sd se sg sh si sj sk sl sm sn so sr ss st su sv sx
    sy sz tc td tf tg th tj tk tl tm tn to tr tt tv tw tz ua ug uk us uy uz va vc ve vg vi vn vu wf ws ye yt
    za zm zw
    """.split()
)
"""The top-level domains of countries (IANA root zone database, 2026)."""
_GENERIC = frozenset(
    "com org net edu gov mil int arpa info biz name pro aero coop museum jobs mobi travel cat tel post asia".split()
)
"""Those for everybody that were there before 2012 (IANA root zone database); later ones are words, and words with a
point between them are seldom an address."""
_RESERVED = frozenset("example test invalid localhost".split())
"""RFC 2606, 2."""
_ENDINGS = frozenset("md py rs sh pl ps so cc pm am ml mk js ts ph".split())
"""Those that end the names of files as often. Such words are an address only with something behind the host."""
_SCHEME = re.compile(r"(?:https?://|www\.)\S+", re.IGNORECASE)
_HOST = re.compile(r"(?:[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?\.){1,8}([a-z]{2,24})(?::\d{1,5})?(/\S*)?", re.IGNORECASE)


def is_address(words: str) -> bool:
    """Whether words are the address of a site or a page, as one types it."""
    if _SCHEME.fullmatch(words):
        return True
    host = _HOST.fullmatch(words)
    if host is None:
        return False
    ending = host[1].lower()
    if ending in _ENDINGS and not host[2]:
        return False
    return ending in _COUNTRIES or ending in _GENERIC or ending in _RESERVED
