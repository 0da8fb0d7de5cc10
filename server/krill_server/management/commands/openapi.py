import json
from typing import Any

from django.core.management.base import BaseCommand
from ninja.responses import NinjaJSONEncoder


class Command(BaseCommand):
    help = "Print the OpenAPI document of the API"

    def handle(self, *args: Any, **options: Any) -> None:
        from krill_server.api import api

        self.stdout.write(json.dumps(api.get_openapi_schema(), indent=1, sort_keys=True, cls=NinjaJSONEncoder))
