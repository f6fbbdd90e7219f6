"""Headers every answer carries, and bodies no route reads."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from api.problems import problem

BODIES = ("application/json", "text/csv")


def more_headers(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """No use of the device's senses; no caching of the interface's data. The content policy is in the settings."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

    return middleware


def only_known_bodies(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """A body the interface does not read is refused before anything tries to read it as a form."""

    def middleware(request: HttpRequest) -> HttpResponse:
        kind = request.content_type or ""
        if kind and kind not in BODIES and request.path.startswith("/api/") and request.META.get("CONTENT_LENGTH") not in {None, "", "0"}:
            return problem(415, "body_kind", f"The body is {kind}; send {' or '.join(BODIES)}.")
        return get_response(request)

    return middleware
