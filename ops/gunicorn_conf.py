"""How a group of the application's processes runs (`ops.front.groups`); without a group, one server does everything.

A group listens on a socket of its own, which only the front server uses; without a front, on loopback.
"""

import os
from pathlib import Path

from ops.common import ROOT
from ops.front import KEPT, Group, groups, socket_of

_group = os.environ.get("STILLPAGE_GROUP", "")
_plain = Group(int(os.environ.get("STILLPAGE_WORKERS", "2")), int(os.environ.get("STILLPAGE_THREADS", "4")))
_given = groups().get(_group, _plain)

if _group:
    bind = f"unix:{socket_of(Path(os.environ['STILLPAGE_VAR']), _group)}"
    umask = 0o077
else:
    bind = f"127.0.0.1:{os.environ.get('STILLPAGE_PORT', '8400')}"
workers = _given.processes
threads = _given.threads
worker_class = "gthread"
keepalive = KEPT
timeout = 60
accesslog = None
loglevel = "warning"
# `./start --dev` begins the application anew whenever its code, or the interface that it hands out, has changed.
reload = os.environ.get("STILLPAGE_DEV") == "1"
reload_extra_files = [str(file) for file in (ROOT / "web" / "dist" / "index.html",) if reload and file.exists()]
# What all have in common is read once; nothing of it holds a connection.
preload_app = not reload
