"""What uvicorn serves: event streams as they are, everything else whole to WSGI in threads that keep their database connection.

Django's own ASGI handler opens a thread and a connection for every request.
"""

import gc
import re
from typing import cast

from a2wsgi import WSGIMiddleware
from a2wsgi.wsgi_typing import WSGIApp

from yoshi_server.bodies import App, Bodies
from yoshi_server.wsgi import application as wsgi_application

from yoshi_server.live import Receive, Scope, Send, stream  # isort: skip  (needs Django set up by the import above)

STREAM = re.compile(r"^/api/jobs/([0-9a-zA-Z_-]{1,40})/live$")
# What is loaded by now stays for good: looking through it again and again took half of every answer's time. A job's document and
# findings are some ten thousand objects that end with their request, so a round is not worth making every 700.
ROUND_EVERY = 20_000
gc.collect()
gc.freeze()
gc.set_threshold(ROUND_EVERY, 20, 50)

_whole = Bodies(cast(App, WSGIMiddleware(cast(WSGIApp, wsgi_application), workers=8)))


async def application(scope: Scope, receive: Receive, send: Send) -> None:
    """Route by path."""
    found = STREAM.match(scope["path"]) if scope["type"] == "http" and scope["method"] == "GET" else None
    if found:
        await stream(scope, receive, send, found[1])
    else:
        await _whole(scope, receive, send)
