from typing import Any

from django.core.management.base import BaseCommand

from builds.models import Build
from studies.actions import ask

DEMO_USER, BUILD = "demo", "Heron"
DUTIES = [round(0.3 + 0.05 * step, 2) for step in range(15)]
QUESTION = {
    "vary": [
        {"address": "radiator-bottom/sections", "options": [{"value": n, "label": f"{n} × 140"} for n in (1, 2, 3, 4)]},
        {
            "address": "radiator-bottom/thickness_mm",
            "options": [{"value": mm, "label": f"{mm} mm"} for mm in (28, 38, 45, 60)],
        },
        {"address": "movers/fans", "options": [{"value": duty, "label": f"{100 * duty:.0f} %"} for duty in DUTIES]},
        {
            "address": "movers/pumps",
            "options": [{"value": duty, "label": f"{100 * duty:.0f} %"} for duty in (0.4, 0.7, 1.0)],
        },
    ],
    "demands": {
        "margins": [{"workload": "both", "place": None, "at_least_k": 6}],
        "sounds": [{"workload": "both", "at_most_dba": 36}],
        "height_mm": 65,
    },
    "criteria": ["margin", "sound", "height"],
}


class Command(BaseCommand):
    help = "Queue a study of the demo's Heron where it has none yet"

    def handle(self, *args: Any, **options: Any) -> None:
        build = Build.objects.filter(owner__username=DEMO_USER, name=BUILD, studies=None).first()
        if build is not None:
            ask(build.owner, build.pk, QUESTION, "which bottom radiator")
