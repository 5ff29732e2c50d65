"""The API object with its error handlers, and the page that carries the front end."""

from __future__ import annotations

from functools import cache
from typing import Any, cast

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, Throttled, ValidationError
from ninja.security import SessionAuth

from stillpage import room
from stillpage.outages import is_outage
from stillpage.publishing import sheet as publishing_sheet
from stillpage.rights import NotAllowed
from stillpage_core.errors import CoreError

from . import giving_way
from .account import public
from .account import router as account
from .arranging import router as arranging
from .arrivals import router as arrivals
from .asked import InBin
from .captions import router as captions
from .checking import router as checking
from .contents import router as contents
from .described import described
from .exchange import router as exchange
from .failures import no_room, unreachable
from .hosts import router as hosts
from .library import router as library
from .lookups import router as lookups
from .previews import router as previews
from .problems import problem
from .redirects import router as redirects
from .routes import router
from .saving import router as saving
from .sites import router as sites
from .versions import router as versions


class _Api(NinjaAPI):
    def get_openapi_schema(self, **options: Any) -> Any:
        throttled = {
            (f"/api{path}", method.lower())
            for bound in self._get_bound_routers()
            for path, view in bound.path_operations.items()
            for operation in view.operations
            if operation.throttle_objects
            for method in operation.methods
        }
        return described(super().get_openapi_schema(**options), throttled)


class _SignedIn(SessionAuth):
    """A session that somebody signed in to; changes carry the CSRF token."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        return request.user if request.user.is_authenticated else None


class _Anyone(SessionAuth):
    """No session needed, but changes carry the CSRF token all the same."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        return True


api = _Api(
    title="Still Page",
    version="1",
    description="Pages, their working and live copies, and the media library. Errors are problem documents (RFC 9457).",
    docs_url=None,
    auth=_SignedIn(),
)
api.add_router("", public, auth=_Anyone())
api.add_router("", account)
api.add_router("", router)
api.add_router("", contents)
api.add_router("", arranging)
api.add_router("", redirects)
api.add_router("", previews)
api.add_router("", sites)
api.add_router("", saving)
api.add_router("", versions)
api.add_router("", checking)
api.add_router("", lookups)
api.add_router("", exchange)
api.add_router("", library)
api.add_router("", arrivals)
api.add_router("", captions)
api.add_router("", hosts)


@api.exception_handler(AuthenticationError)
def _not_signed_in(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem(401, "not-signed-in", "Not signed in", "Sign in to go on. What you have written is kept.")


@api.exception_handler(NotAllowed)
def _not_allowed(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem(403, "not-allowed", "Not allowed", str(error))


@api.exception_handler(InBin)
def _in_bin(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem(404, "in-the-bin", "In the bin", str(error))


@api.exception_handler(Http404)
def _missing(request: HttpRequest, error: Exception) -> HttpResponse:
    return problem(404, "not-found", "Not found", "There is no such thing, or it has been deleted.")


@api.exception_handler(ValidationError)
def _misshapen(request: HttpRequest, error: ValidationError) -> HttpResponse:
    first = error.errors[0]
    place = " → ".join(str(part) for part in first["loc"][1:])
    return problem(422, "misshapen", "The request is not of the right shape", f"{place}: {first['msg']}.")


@api.exception_handler(Throttled)
def _too_often(request: HttpRequest, error: Exception) -> HttpResponse:
    seconds = int(request.META.get("stillpage.wait", 60))
    sentence = f"This was asked for too often. Wait {seconds} seconds, then try again. Nothing is lost."
    return problem(429, "too-often", "Asked too often", sentence, retry_after=seconds)


@api.exception_handler(HttpError)
def _other(request: HttpRequest, error: HttpError) -> HttpResponse:
    if error.status_code == 403:
        return problem(403, "forged", "The request was refused", "Reload the page and try again.")
    return problem(error.status_code, "refused", "The request was refused", str(error))


@api.exception_handler(CoreError)
def _unusable(request: HttpRequest, error: CoreError) -> HttpResponse:
    return problem(error.status, error.name, error.title, str(error), **error.particulars())


@api.exception_handler(RequestDataTooBig)
def _too_big(request: HttpRequest, error: Exception) -> HttpResponse:
    megabytes = settings.DATA_UPLOAD_MAX_MEMORY_SIZE // 1024 // 1024
    sentence = f"This is more than {megabytes} MB, the most that is taken at once. Bring it in as a file instead."
    return problem(413, "too-large", "Too much at once", sentence)


@api.exception_handler(OperationalError)
def _no_database(request: HttpRequest, error: Exception) -> HttpResponse:
    giving_way.note(request, error)
    if room.is_full(error):
        return no_room()
    if not is_outage(error):
        raise error
    return unreachable(request, error)


@api.exception_handler(OSError)
def _no_room(request: HttpRequest, error: OSError) -> HttpResponse:
    if not room.is_full(error):
        raise error
    return no_room()


api.add_exception_handler(InterfaceError, cast(Any, _no_database))


@cache
def _index() -> str:
    """The front end's page as it was built."""
    return settings.WEB_INDEX.read_text(encoding="utf-8")


def interface(request: HttpRequest) -> HttpResponse:
    """The page that carries the front end, whatever the address: the front end reads that itself."""
    if request.method not in ("GET", "HEAD"):
        return HttpResponse(status=405, headers={"Allow": "GET, HEAD"})
    get_token(request)
    html = _index().replace("__NONCE__", str(request.csp_nonce))  # type: ignore[attr-defined]
    return HttpResponse(html, headers={"Cache-Control": "no-store"})


def reader_pass(request: HttpRequest, site_id: int) -> HttpResponse:
    """Lead a reader who is signed in back to a public site; whoever is not signs in first, at the same address."""
    return publishing_sheet.reader_pass(request, site_id) or interface(request)
