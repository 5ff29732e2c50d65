"""The addresses of the authoring side. Public pages never get here: `publishing.serving` answers them."""

from django.urls import path, re_path

from .api.interface import api, interface
from .library.files import media
from .publishing.sheet import sheet

handler500 = "stillpage.api.outage.server_error"

urlpatterns = [
    path("api/", api.urls),
    path("media/<path:name>", media, name="media"),
    path("sheet/<int:page_id>", sheet, name="sheet"),
    re_path(r"^(?!api/|static/|media/|sheet/).*$", interface, name="interface"),
]
