"""/metrics: what all server processes of this machine counted, and the queue as it stands; for this machine alone."""

import os
from collections.abc import Iterable

from django.db import DatabaseError
from django.db.models import Count
from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_safe
from procrastinate.contrib.django.models import ProcrastinateJob
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.metrics_core import Metric
from prometheus_client.multiprocess import MultiProcessCollector
from prometheus_client.registry import Collector

from studies.models import Study


class Queue(Collector):
    """Studies and jobs by their state, asked of the database at each look."""

    def collect(self) -> Iterable[Metric]:
        for name, says, rows, column in (
            ("krill_studies", "Open studies", Study.objects.filter(state__in=Study.OPEN), "state"),
            ("krill_jobs", "Jobs in the queue", ProcrastinateJob.objects.all(), "status"),
        ):
            family = GaugeMetricFamily(name, says, labels=[column])
            try:
                counted = rows.order_by(column).values_list(column).annotate(Count("pk"))
                for state, count in counted:
                    family.add_metric([state], count)
            except DatabaseError:  # /healthz tells of it
                continue
            yield family


@require_safe
def metrics(request: HttpRequest) -> HttpResponse:
    """404 for anybody elsewhere, and for whoever comes through a proxy."""
    near = request.META.get("REMOTE_ADDR", "") in ("127.0.0.1", "::1")
    if not near or "HTTP_X_FORWARDED_FOR" in request.META:
        raise Http404
    registry = CollectorRegistry()
    registry.register(Queue())
    if os.environ.get("PROMETHEUS_MULTIPROC_DIR"):
        MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
        text = generate_latest(registry)
    else:
        text = generate_latest(REGISTRY) + generate_latest(registry)
    return HttpResponse(text, content_type=CONTENT_TYPE_LATEST)
