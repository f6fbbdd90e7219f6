"""What uvicorn serves: the WSGI application in threads that keep their database connection.

Django's own ASGI handler opens a thread and a connection for every request.
"""

from typing import cast

from a2wsgi import WSGIMiddleware
from a2wsgi.wsgi_typing import WSGIApp

from yoshi_server.wsgi import application as wsgi_application

application = WSGIMiddleware(cast(WSGIApp, wsgi_application), workers=8)
