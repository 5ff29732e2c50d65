"""The application as a WSGI server runs it."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "stillpage.settings")
application = get_wsgi_application()
