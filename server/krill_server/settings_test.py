"""The same settings on the throw-away cluster, with a quick password hash."""

from krill_server.settings import *  # noqa: F403
from krill_server.settings import DATABASES, MIDDLEWARE

DATABASES["default"]["CONN_MAX_AGE"] = 0
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# a thread of its own has a connection of its own, which does not see what a test has not committed
MIDDLEWARE = [name for name in MIDDLEWARE if not name.endswith("in_roomy_thread")]
