"""The addresses of the authoring side. Public pages never get here: `publishing.serving` answers them."""

from django.urls import path, re_path

from .api.interface import api, interface, reader_pass
from .api.versions import version_page
from .publishing.sheet import media, navigation, sheet

handler500 = "stillpage.api.failures.server_error"

urlpatterns = [
    path("api/", api.urls),
    path("media/<path:name>", media, name="media"),
    path("sheet/<int:page_id>", sheet, name="sheet"),
    path("sheet/navigation/<int:site_id>", navigation, name="navigation"),
    path("reader/<int:site_id>", reader_pass, name="reader"),
    path("version/<int:page_id>/<int:version_id>", version_page, name="version"),
    re_path(r"^(?!api/|static/|media/|sheet/|version/|reader/).*$", interface, name="interface"),
]
