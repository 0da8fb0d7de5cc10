"""What the environment may say, both sides of each limit, and Django's own check of a deployment."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from django.core.exceptions import ImproperlyConfigured
from django.test import RequestFactory

from krill_server.environment import Environment
from wire.addresses import address_of

SERVER = Path(__file__).parents[1]


def told(monkeypatch, **values):
    for name in ("KRILL_SECRET", "KRILL_HOSTS", "KRILL_HTTPS", "KRILL_PROXIES", "KRILL_LOG"):
        monkeypatch.delenv(name, raising=False)
    for name, value in values.items():
        monkeypatch.setenv(f"KRILL_{name.upper()}", value)
    return Environment.read()


def test_nothing_said_is_a_machine_of_ones_own(monkeypatch):
    assert told(monkeypatch) == Environment("", ["127.0.0.1", "localhost"], False, 0)
    assert told(monkeypatch).origins == []


def test_a_workshop_behind_a_proxy(monkeypatch):
    found = told(
        monkeypatch, secret="abcde" * 10, hosts="krill.example, .lab.example,[::1]", https="1", proxies="2", log="1"
    )
    assert found.log
    assert found.hosts == ["krill.example", ".lab.example", "[::1]"]
    assert found.origins == ["https://krill.example", "https://*.lab.example", "https://[::1]"]
    assert (found.https, found.proxies) == (True, 2)


@pytest.mark.parametrize(
    ("values", "says"),
    [
        ({"secret": "abcdefg" * 7}, "KRILL_SECRET has 49 characters, 7 of them unlike; at least 50"),
        ({"secret": "abcd" * 13}, "KRILL_SECRET has 52 characters, 4 of them unlike"),
        ({"hosts": "https://krill.example"}, "KRILL_HOSTS holds 'https://krill.example'; allowed are names"),
        ({"hosts": "krill.example:8000"}, "without scheme or port"),
        ({"hosts": ""}, "KRILL_HOSTS holds ''"),
        ({"hosts": "*"}, "KRILL_HOSTS holds '*'"),
        ({"https": "yes"}, "KRILL_HTTPS is 'yes'; allowed: 1"),
        ({"proxies": "-1"}, "KRILL_PROXIES is '-1'"),
        ({"log": "yes"}, "KRILL_LOG is 'yes'"),
        ({"proxies": "10"}, "KRILL_PROXIES is '10'"),
        ({"secret": "short", "https": "2"}, "KRILL_HTTPS is '2'"),
    ],
)
def test_what_cannot_be_is_told_in_a_sentence(monkeypatch, values, says):
    with pytest.raises(ImproperlyConfigured, match="KRILL_") as refused:
        told(monkeypatch, **values)
    assert says in str(refused.value)


def checked(**values):
    environment = {name: value for name, value in os.environ.items() if not name.startswith("KRILL_")}
    return subprocess.run(
        [
            sys.executable,
            "manage.py",
            "check",
            "--deploy",
            "--fail-level",
            "WARNING",
            "--settings",
            "krill_server.settings",
        ],
        cwd=SERVER,
        env=environment | {f"KRILL_{name.upper()}": value for name, value in values.items()},
        capture_output=True,
        text=True,
        check=False,
    )


def test_a_deployment_passes_djangos_check():
    found = checked(secret="a1B2c3D4" * 8, hosts="krill.example", https="1", proxies="1")
    assert found.returncode == 0, found.stderr
    assert "no issues" in found.stdout


def test_a_wrong_environment_ends_the_start_with_the_sentence():
    found = checked(hosts="krill.example/")
    assert found.returncode != 0
    assert "KRILL_HOSTS holds 'krill.example/'" in found.stderr


@pytest.mark.parametrize(
    ("proxies", "forwarded", "address"),
    [
        (0, "6.6.6.6", "10.0.0.1"),  # nobody is trusted: what the request says of itself counts for nothing
        (1, "6.6.6.6, 1.2.3.4", "1.2.3.4"),
        (2, "6.6.6.6, 1.2.3.4, 10.0.0.7", "1.2.3.4"),
        (2, "1.2.3.4", "10.0.0.1"),
        (1, "", "10.0.0.1"),
    ],
)
def test_the_address_is_the_one_that_the_last_trusted_proxy_saw(settings, proxies, forwarded, address):
    settings.PROXIES = proxies
    request = RequestFactory().get("/", HTTP_X_FORWARDED_FOR=forwarded, REMOTE_ADDR="10.0.0.1")
    assert address_of(request) == address
