"""How the application server runs. Bound to loopback; a front server with TLS goes before it in earnest use."""

import os

bind = f"127.0.0.1:{os.environ.get('STILLPAGE_PORT', '8400')}"
workers = int(os.environ.get("STILLPAGE_WORKERS", "2"))
threads = int(os.environ.get("STILLPAGE_THREADS", "4"))
worker_class = "gthread"
keepalive = 30
timeout = 60
accesslog = None
loglevel = "warning"
preload_app = False
