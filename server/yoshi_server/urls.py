"""The API, and the interface for every other path."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from api.root import api
from yoshi_server.metrics import metrics


@ensure_csrf_cookie
def interface(request: HttpRequest) -> HttpResponseBase:
    """The one page of the interface; it finds its own way from the address."""
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The interface is not built yet: run ./start.", status=503, content_type="text/plain")
    response = FileResponse(index.open("rb"), content_type="text/html; charset=utf-8")
    response.headers["Cache-Control"] = "no-cache"
    return response


urlpatterns = [
    path("api/", api.urls),
    path("metrics", metrics),
    re_path(r"^(?!api/|assets/).*$", interface),
]
