"""JSON that is sent: the same of it is refused everywhere, before any schema looks at it."""

from typing import Any

from django.http import HttpRequest
from ninja.parser import Parser

from krill.document.reading import json_value
from krill.document.storable import must_be_storable


class StorableJson(Parser):
    """Reads JSON in which every number and every text can be stored; DocumentRefused with the address of what cannot."""

    def parse_body(self, request: HttpRequest) -> dict[str, Any]:
        data: dict[str, Any] = json_value(request.body.decode(), "JSON as the API's schema tells")
        must_be_storable(data)
        return data
