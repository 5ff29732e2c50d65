"""What simulated services that answer oEmbed share (oEmbed 1.0, https://oembed.com): their moods, JSON and XML."""

from __future__ import annotations

import json
from html import escape
from typing import Any
from urllib.parse import urlencode
from xml.sax.saxutils import escape as escape_xml

from .service import Service

REFUSED = {"refusing": 403, "gone": 404}


class Answering(Service):
    """One request to a service with things of one ``TYPE`` of oEmbed, called ``THING`` when one is refused."""

    TYPE = ""
    THING = ""

    def described(self, thing: dict[str, Any]) -> dict[str, Any]:
        """What oEmbed says of it."""
        raise NotImplementedError

    def behaved(self) -> bool:
        """Whether there is still somebody to answer, after what the mood does to everybody."""
        mode = self.server.mode
        if mode == "slow":
            self.server.asleep(30)
        elif mode == "vanished":
            self.break_off()
        return mode != "vanished"

    def refuse(self, status: int) -> None:
        """Answer that it is not shown."""
        self.send(status, "text/plain", f"Not this {self.THING}.".encode())

    def led(self, address: str) -> None:
        """Lead to another address."""
        self.send(302, "text/plain", b"", {"Location": address})

    def oembed(self, thing: dict[str, Any] | None, query: dict[str, str], endpoint: str) -> None:
        """Answer a question about this thing (None: about one that there is not), as the mood has it."""
        mode = self.server.mode
        refused = REFUSED.get(mode, 404 if thing is None else 0)
        if mode == "private":
            self.led(f"http://localhost:{self.server.server_port}/oembed?{urlencode(query)}")
        elif refused or thing is None:
            self.refuse(refused)
        elif thing.get("private"):
            self.send(401, "text/plain", f"Its author does not show this {self.THING} elsewhere.".encode())
        elif mode == "old" and query.get("format") != "xml":
            self.send(501, "text/plain", b"XML only.")
        elif mode == "untold" and endpoint == "oembed":
            self.send(200, "text/html", b"<!DOCTYPE html><title>Moved</title>")
        elif mode == "broken":
            self.send(200, "application/json", f'{{"type": "{self.TYPE}", '.encode())
        elif query.get("format") == "xml":
            inside = "".join(f"<{key}>{escape_xml(str(value))}</{key}>" for key, value in self.described(thing).items())
            text = f'<?xml version="1.0" encoding="utf-8" standalone="yes"?><oembed>{inside}</oembed>'
            self.send(200, "text/xml; charset=utf-8", text.encode())
        else:
            self.send(200, "application/json", json.dumps(self.described(thing)).encode())

    def links(self, address: str, title: str) -> str:
        """The links of the page at this address that say where its oEmbed is."""
        endpoint = "other-oembed" if self.server.mode == "untold" else "oembed"
        return "".join(
            f'<link rel="alternate" type="{kind}+oembed" title="{escape(title)}" '
            f'href="{escape(f"{self.here}/{endpoint}?" + urlencode({"url": address, "format": form}))}">'
            for kind, form in (("application/json", "json"), ("text/xml", "xml"))
        )
