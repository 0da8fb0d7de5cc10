"""The same settings on the throw-away cluster, with a quick password hash."""

from krill_server.settings import *  # noqa: F403
from krill_server.settings import DATABASES

DATABASES["default"]["CONN_MAX_AGE"] = 0
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
