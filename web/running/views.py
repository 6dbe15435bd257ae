"""For whatever watches an installation: is it well, and how much does it do."""

from __future__ import annotations

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.http import require_safe

from web.running import counters


@require_safe
def health(request: HttpRequest) -> HttpResponse:
    """200 where the process and its database answer; 503 where the database does not."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
            cursor.fetchone()
    except DatabaseError:
        return JsonResponse({"process": "well", "database": "does not answer"}, status=503)
    return JsonResponse({"process": "well", "database": "well"})


@require_safe
def metrics(request: HttpRequest) -> HttpResponse:
    """Counters, if they are switched on."""
    if not settings.METRICS:
        raise Http404
    text = "\n".join(counters.lines()) + "\n"
    return HttpResponse(text, content_type="text/plain; version=0.0.4; charset=utf-8")
