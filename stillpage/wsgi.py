"""The application as a WSGI server runs it."""

import os

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "stillpage.settings")
application = get_wsgi_application()
# What answers is read before the first request, so that nobody waits for it.
get_resolver().url_patterns  # noqa: B018
