from django.urls import path
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.generic import TemplateView

from krill_server.api import api
from krill_server.health import alive, healthy
from krill_server.metrics import metrics

handler404 = "krill_server.failures.catch_all"
handler500 = "krill_server.failures.broken"
urlpatterns = [
    path("api/", api.urls),
    path("healthz", healthy),
    path("readyz", alive),
    path("metrics", metrics),
    path("sw.js", TemplateView.as_view(template_name="sw.js", content_type="text/javascript")),
    path("", ensure_csrf_cookie(TemplateView.as_view(template_name="index.html"))),
]
