"""The front server: nginx before the application's processes, with a configuration made for this installation.

It holds slow clients, so that they hold nothing behind it; keeps live pages for a second, so that readers cost next to
nothing; and leads each request to the processes that are there for its sort (`groups`), so that what takes long keeps
nobody waiting who reads or saves. It judges nothing: who may have what is said by the application alone.
`python -m ops.front` prints the configuration, for an installation that runs its own nginx (docs/running.md).
"""

from __future__ import annotations

import os
import re
import shutil
import sys
from dataclasses import dataclass
from pathlib import Path

from .common import Stop, var
from .install import find
from .processes import Child

MEGABYTE = 1024 * 1024


@dataclass(frozen=True)
class Group:
    """A group of the application's processes. ``gives_way`` is how nice it is to the others."""

    processes: int
    threads: int
    gives_way: int = 0


def _number(name: str, default: int) -> int:
    value = os.environ.get(name, "")
    return int(value) if value.isdecimal() and int(value) else default


def groups() -> dict[str, Group]:
    """Who answers what: readers of public sites; authors; what takes much computing; what takes long to come or go."""
    processes, threads = _number("STILLPAGE_WORKERS", 2), _number("STILLPAGE_THREADS", 4)
    return {
        "readers": Group(processes, threads),
        "authors": Group(processes, threads, 6),
        "heavy": Group(processes, threads, 12),
        "transfers": Group(1, 32, 6),
    }


HEAVY = (
    "/api/paste",
    "/api/read",
    "/api/check",
    "/api/source",
    "/api/source/read",
    "/api/equation",
    "/api/pages/{page_id}/check",
    "/api/pages/{page_id}/listen",
    "/api/pages/{page_id}/publish",
    "/api/pages/{page_id}/allowances",
    "/api/pages/{page_id}/export/{ending}",
    "/api/items/{item_id}/cut/{key}",
    "/api/account/password",
)
"""The operations that may take much computing, each no longer than its budget allows (`stillpage.computing`), as the
API's description names them; a test holds the two together. Signing in is one too: a password is hashed slowly on
purpose."""
TRANSFERS = (
    "/api/items",
    "/api/uploads",
    "/api/uploads/{upload_id}",
    "/api/library/fetch",
    "/api/commons",
    "/api/commons/{number}/preview",
    "/api/commons/take",
    "/api/hosts/try",
    "/api/items/{item_id}/ask",
    "/api/sites/{site_id}/import",
    "/api/sites/{site_id}/export",
    "/api/sites/{site_id}/redirects.csv",
    "/api/tree/place",
    "/api/tree/bin",
    "/api/tree/restore",
    "/api/tree/remove",
    "/api/tree/acts/{act_id}/undo",
    "/api/pages/{page_id}/duplicate",
    "/api/all-sites/{site_id}",
    "/api/all-sites/{site_id}/duplicate",
)
"""The operations that take as long as somebody else takes to send, or as there are files."""
PIECES = "/api/uploads/{upload_id}"
"""What is handed on as it comes, so that what arrived of a piece that breaks off is kept."""


def pattern(path: str) -> str:
    """A regular expression of nginx for a path of the API's description."""
    return "^" + re.sub(r"\{\w+\}", "[^/]+", path) + "$"


@dataclass(frozen=True)
class Settings:
    """What the configuration depends on. ``trusted`` are the networks of servers before this one whose word on where a
    request comes from is taken; ``certificate`` and ``key`` are files, or empty where this server speaks no TLS."""

    folder: Path
    port: int
    authoring: tuple[str, ...]
    static: str
    media: str
    largest: int
    address: str = "127.0.0.1"
    trusted: tuple[str, ...] = ()
    certificate: str = ""
    key: str = ""
    as_root: bool = False

    @classmethod
    def of_environment(cls, folder: Path, port: int) -> Settings:
        """As the variables say that `docs/running.md` lists."""
        given = os.environ.get

        def listed(name: str, default: str = "") -> tuple[str, ...]:
            return tuple(each.strip() for each in given(name, default).split(",") if each.strip())

        return cls(
            folder,
            port,
            listed("STILLPAGE_AUTHORING_HOSTS", "localhost,127.0.0.1"),
            static=str(folder / "static"),
            media=str(folder / "media"),
            largest=_number("STILLPAGE_IMPORT_LIMIT", 256 * MEGABYTE) * 5 // 4 // MEGABYTE,
            address=given("STILLPAGE_ADDRESS", "127.0.0.1"),
            trusted=listed("STILLPAGE_TRUSTED_PROXIES"),
            certificate=given("STILLPAGE_CERTIFICATE", ""),
            key=given("STILLPAGE_CERTIFICATE_KEY", ""),
            as_root=os.geteuid() == 0,
        )


KEPT = 30
"""For how many seconds the application keeps a connection on which nothing is asked. The front lets go of its end
sooner: a request that is sent while the other end is being closed is lost, and told as “Bad Gateway”."""


def socket_of(folder: Path, group: str) -> Path:
    """Where the processes of a group listen."""
    return folder / "run" / f"{group}.sock"


def pages_folder(folder: Path) -> Path:
    """Where live pages are kept for a second; the application removes what it has just changed (`publishing.front`)."""
    return folder / "front" / "pages"


def _quoted(word: str | Path) -> str:
    text = str(word)
    if re.search(r'["\\$\n;{}]', text):
        raise Stop(f"The front server cannot work with “{text}”: it holds a sign that has a meaning of its own there.")
    return f'"{text}"'


def configuration(given: Settings) -> str:
    """The whole configuration of nginx 1.22 or newer."""
    front = given.folder / "front"
    secure = bool(given.certificate)
    listen = f"listen {given.address}:{given.port}{' ssl http2' if secure else ''}"
    certificate = (
        f"ssl_certificate {_quoted(given.certificate)};\n  ssl_certificate_key {_quoted(given.key)};\n"
        "  ssl_protocols TLSv1.2 TLSv1.3;\n  ssl_session_cache shared:tls:8m;\n  ssl_session_tickets off;"
        if secure
        else ""
    )
    upstreams = "\n".join(
        f"  upstream {name} {{\n    server {_quoted(f'unix:{socket_of(given.folder, name)}')} max_fails=0;\n"
        f"    keepalive 32;\n    keepalive_timeout {KEPT - 5}s;\n  }}"
        for name in groups()
    )
    trusted = "\n".join(f"  set_real_ip_from {each};" for each in given.trusted)
    ways = "\n".join(
        f'    "~{pattern(path)}" {name};'
        for name, paths in (("heavy", HEAVY), ("transfers", TRANSFERS))
        for path in paths
    )
    hosts = " ".join(_quoted(each) for each in given.authoring)
    return f"""# Made by ops/front.py; change that, or the variables in docs/running.md.
daemon off;
{"user root;" if given.as_root else ""}
worker_processes {min(4, os.cpu_count() or 1)};
worker_rlimit_nofile 16384;
pid {_quoted(front / "pid")};
# What is told of a request holds its query; only what keeps the server itself from working is told.
error_log stderr emerg;
events {{
  worker_connections 4096;
}}
http {{
  default_type application/octet-stream;
  client_body_temp_path {_quoted(front / "bodies")};
  proxy_temp_path {_quoted(front / "answers")};
  fastcgi_temp_path {_quoted(front / "none")};
  uwsgi_temp_path {_quoted(front / "none")};
  scgi_temp_path {_quoted(front / "none")};
  # No address, no query: a log must not tell who read what, nor hold a ticket.
  log_format plain '$time_iso8601 $status $request_method $host $uri $body_bytes_sent $request_time';
  access_log off;
  server_tokens off;
  merge_slashes off;
  sendfile on;
  tcp_nopush on;
  etag off;
  if_modified_since off;
  # Common practice; whoever is slower than this is no reader.
  client_header_timeout 10s;
  client_body_timeout 20s;
  send_timeout 20s;
  reset_timedout_connection on;
  keepalive_timeout 30s;
  keepalive_requests 100000;
  client_max_body_size 32m;
  large_client_header_buffers 4 16k;
{trusted}
{"  real_ip_header X-Forwarded-For;" if given.trusted else ""}
{"  real_ip_recursive on;" if given.trusted else ""}

  # Who writes "gzip;q=0" wants none (RFC 9110, 12.5.3).
  map $http_accept_encoding $packed {{
    default "";
    "~*(^|[\\s,])gzip(?!\\s*;\\s*q=0(\\.0*)?\\s*(,|$))" gzip;
  }}
  map $request_uri $asked {{
    "~^(?<without_query>[^?]*)" $without_query;
  }}
  geo $realip_remote_addr $is_trusted {{
    default 0;
    {" ".join(f"{each} 1;" for each in given.trusted)}
  }}
  map $is_trusted:$http_x_forwarded_proto $spoken {{
    default $scheme;
    "1:https" https;
    "1:http" http;
  }}
  map $uri $sort {{
    default authors;
{ways}
  }}
  map $request_method:$uri $way {{
    default $sort;
    "POST:/api/session" heavy;
  }}
{upstreams}

  proxy_cache_path {_quoted(pages_folder(given.folder))} levels=1:2 keys_zone=pages:8m
    max_size=256m inactive=7d use_temp_path=off;
  proxy_cache_path {_quoted(front / "static")} levels=1:2 keys_zone=static:4m
    max_size=256m inactive=7d use_temp_path=off;
  proxy_http_version 1.1;
  proxy_set_header Connection "";
  proxy_set_header Host $http_host;
  proxy_set_header X-Real-IP $remote_addr;
  proxy_set_header X-Forwarded-Proto $spoken;
  proxy_set_header X-Forwarded-For "";
  proxy_connect_timeout 5s;
  proxy_read_timeout 120s;
  proxy_next_upstream off;
  proxy_ignore_client_abort off;
  # Whoever takes an answer slowly takes it from here.
  proxy_buffers 16 16k;
  proxy_buffer_size 16k;

  server {{
    {listen};
    server_name {hosts};
    {certificate}
    error_page 400 414 494 /-/unreadable;
    error_page 413 /-/too-large;
    error_page 502 504 /-/busy;
    location / {{
      proxy_pass http://$way;
    }}
    location /static/ {{
      proxy_cache static;
      proxy_cache_key $asked$packed;
      proxy_cache_valid 200 7d;
      proxy_ignore_headers Vary Cache-Control Expires;
      proxy_set_header Accept-Encoding $packed;
      proxy_set_header Host {_quoted(given.authoring[0])};
      proxy_pass http://authors;
    }}
    location ~ "{pattern(PIECES)}" {{
      client_max_body_size 16m;
      proxy_request_buffering off;
      proxy_pass http://transfers;
    }}
    location ~ "^/api/(items|read|sites/[^/]+/import)$" {{
      client_max_body_size {given.largest}m;
      proxy_pass http://$way;
    }}
    {_answers(given)}
  }}
  server {{
    {listen} default_server;
    server_name _;
    {certificate}
    # An address that is too long is answered here, whichever host it was for.
    error_page 400 414 494 /-/unreadable;
    error_page 413 /-/too-large;
    error_page 502 504 /-/busy;
    client_max_body_size 64k;
    location / {{
      # What does not fit in memory waits for the reader; no file is needed for it, which a full disk would refuse.
      proxy_max_temp_file_size 0;
      proxy_cache pages;
      proxy_cache_key $host$asked$packed;
      # How long, says the application (X-Accel-Expires); what it does not say that of is not kept. While it is away,
      # readers get what is there.
      proxy_cache_use_stale error timeout http_502 http_503 http_504;
      proxy_ignore_headers Vary Cache-Control Expires;
      proxy_set_header Accept-Encoding $packed;
      proxy_set_header Host $host;
      proxy_pass http://readers;
    }}
    location /media/ {{
      proxy_set_header Host $host;
      proxy_pass http://readers;
    }}
    location = /reader-pass {{
      proxy_set_header Host $host;
      proxy_pass http://readers;
    }}
    location /static/ {{
      proxy_cache static;
      proxy_cache_key $asked$packed;
      proxy_cache_valid 200 7d;
      proxy_ignore_headers Vary Cache-Control Expires;
      proxy_set_header Accept-Encoding $packed;
      proxy_set_header Host {_quoted(given.authoring[0])};
      proxy_pass http://readers;
    }}
    {_answers(given)}
  }}
}}
"""


def _answers(given: Settings) -> str:
    """What the front says by itself, and the files that the application has it send."""
    problem = (
        '{{"type": "https://stillpage.invalid/problems/{0}", "title": "{1}", "status": {2}, "detail": "{3}"}}'.format
    )
    busy = problem(
        "busy",
        "The application does not answer",
        503,
        "It may be starting. Nothing is lost: try again in a few seconds.",
    )
    unreadable = problem(
        "unreadable", "The request cannot be read", 414, "Its address or its headers are too long, or no HTTP."
    )
    large = problem("too-large", "Too much at once", 413, "This is more than is taken at once. Bring it in as a file.")
    return f"""location = /-/busy {{
      internal;
      default_type application/problem+json;
      add_header Retry-After 5 always;
      add_header Cache-Control no-store always;
      add_header X-Content-Type-Options nosniff always;
      return 503 '{busy}';
    }}
    location = /-/unreadable {{
      internal;
      default_type application/problem+json;
      add_header Cache-Control no-store always;
      add_header X-Content-Type-Options nosniff always;
      return 414 '{unreadable}';
    }}
    location = /-/too-large {{
      internal;
      default_type application/problem+json;
      add_header Cache-Control no-store always;
      add_header X-Content-Type-Options nosniff always;
      return 413 '{large}';
    }}
    location /-/media/ {{
      internal;
      alias {_quoted(given.media + "/")};
      add_header ETag $upstream_http_etag;
      add_header X-Content-Type-Options nosniff;
      add_header Content-Security-Policy $upstream_http_content_security_policy;
      add_header Strict-Transport-Security $upstream_http_strict_transport_security;
      add_header Last-Modified "";
    }}"""


class Front:
    """nginx as our child. Its folder holds nothing that has to be kept."""

    def __init__(self, given: Settings) -> None:
        self.given = given
        self.child: Child | None = None

    def start(self) -> Child:
        """Write the configuration and start."""
        folder = self.given.folder / "front"
        shutil.rmtree(folder / "static", ignore_errors=True)
        pages_folder(self.given.folder).mkdir(parents=True, exist_ok=True)
        file = folder / "nginx.conf"
        file.write_text(configuration(self.given), encoding="utf-8")
        program = find("nginx")
        if not program:
            raise Stop("The program nginx is missing. Install it, or set STILLPAGE_FRONT=none to do without.")
        first = -5 if self.given.as_root else 0
        self.child = Child([program, "-p", f"{folder}/", "-e", "stderr", "-c", file], gives_way=first)
        return self.child


if __name__ == "__main__":
    sys.stdout.write(configuration(Settings.of_environment(var(), _number("STILLPAGE_PORT", 8400))))
