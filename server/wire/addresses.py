"""Who asks, behind proxies: the address that the last trusted one saw."""

from django.conf import settings
from django.http import HttpRequest


def address_of(request: HttpRequest) -> str:
    """The client's address: what stands before the trusted proxies in X-Forwarded-For, which anybody may begin."""
    seen = [one.strip() for one in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if one.strip()]
    count = settings.PROXIES
    return seen[-count] if 0 < count <= len(seen) else str(request.META.get("REMOTE_ADDR", ""))
