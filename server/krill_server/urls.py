from django.urls import path
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.generic import TemplateView

from krill_server.api import api

urlpatterns = [
    path("api/", api.urls),
    path("", ensure_csrf_cookie(TemplateView.as_view(template_name="index.html"))),
]
