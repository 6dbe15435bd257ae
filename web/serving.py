"""How gunicorn serves the application, for the demo and for a server of one's own:
``gunicorn -c python:web.serving web.wsgi``. What can be set is told in docs/running.md."""

from __future__ import annotations

import sys
from typing import Any

from web.settings import env
from web.ui.limits import MOST_HEADER

bind = env.text("AIM_BIND", "127.0.0.1:8000")
workers = env.number("AIM_WORKERS", 2)
worker_class = "gthread"
threads = env.number("AIM_THREADS", 4)
timeout = 60
graceful_timeout = 25
keepalive = 15
limit_request_line = 0  # gunicorn takes 8190 bytes or any number; the application has its own limit
limit_request_field_size = MOST_HEADER
limit_request_fields = 100
loglevel = env.text("AIM_LOG_LEVEL", "warning").lower()
control_socket_disable = True
forwarded_allow_ips = env.text("AIM_PROXY_ADDRESSES", "127.0.0.1,::1")


def on_starting(server: Any) -> None:
    """Refuse to serve what cannot be served, in a sentence, before anything is begun."""
    import django
    from django.core.exceptions import ImproperlyConfigured

    try:
        django.setup()
        from web.running.doctor import to_serve

        wrong = to_serve()
    except ImproperlyConfigured as error:
        wrong = str(error)
    if wrong:
        print(f"aim: {wrong}", file=sys.stderr)
        sys.exit(1)
    from django.db import connections

    connections.close_all()  # what is opened here is not for the workers
