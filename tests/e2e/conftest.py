"""A real browser on the real interface. A page fails its test on any foreign request, console error or policy violation."""

import os
from collections.abc import Callable, Iterator
from pathlib import Path
from threading import Lock
from typing import Any

import pytest
from django.core.signals import request_finished, request_started
from playwright.sync_api import Page, expect

from wire import turns

# Playwright's sync API keeps an event loop running in this thread; Django would refuse every ORM call
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

ROOT = Path(__file__).resolve().parents[2]
AXE = ROOT / "web/node_modules/axe-core/axe.min.js"
PASSWORD = "saltmarsh-station"
PATIENCE_MS = 15_000
#: longer than the browser waits before it saves or asks
QUIET_MS = 600

#: said where a context blocks workers, as ours do
BLOCKED = "Service Worker registration blocked by Playwright"

expect.set_options(timeout=PATIENCE_MS)


def pytest_sessionfinish(session: pytest.Session) -> None:
    """A browser test that is skipped has proved nothing: the run counts as failed."""
    reporter = session.config.pluginmanager.get_plugin("terminalreporter")
    if reporter is not None and reporter.stats.get("skipped"):
        session.exitstatus = pytest.ExitCode.TESTS_FAILED


@pytest.fixture(scope="session", autouse=True)
def _one_process_solves() -> Iterator[None]:
    """Here questions share one process with the server and each other: none is too long because others are asked beside it."""
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(turns, "MOST_S", 120.0)
        yield


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    args = [
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost",
    ]
    return {
        **browser_type_launch_args,
        "executable_path": os.environ.get("CHROMIUM", "/usr/bin/chromium"),
        "chromium_sandbox": os.geteuid() != 0,  # Chromium's sandbox refuses root
        "args": args,
    }


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any], live_server: Any) -> dict[str, Any]:
    return {
        **browser_context_args,
        "viewport": {"width": 1280, "height": 800},
        "base_url": live_server.url,
        "reduced_motion": "reduce",
        "locale": "en-GB",
        "timezone_id": "UTC",
        "service_workers": "block",  # what a worker asks for, a test would not see
    }


@pytest.fixture
def page(page: Page, live_server: Any) -> Iterator[Page]:
    page.set_default_timeout(PATIENCE_MS)
    page.set_default_navigation_timeout(60_000)  # the first page also starts the core
    bad: list[str] = []
    page.on(
        "request", lambda r: r.url.startswith((live_server.url, "data:", "blob:")) or bad.append(f"request {r.url}")
    )
    page.on(
        "console",
        lambda m: m.type in ("error", "warning") and m.text != BLOCKED and bad.append(f"console {m.text} {m.location}"),
    )
    page.on("pageerror", lambda e: bad.append(f"error {e}"))
    page.add_init_script(
        "addEventListener('securitypolicyviolation', e => console.error('CSP', e.violatedDirective, e.blockedURI))"
    )
    under_way: set[Any] = set()
    page.on("request", lambda r: under_way.add(r))
    page.on("requestfinished", lambda r: under_way.discard(r))
    page.on("requestfailed", lambda r: under_way.discard(r))
    yield page
    settle(page, under_way)
    assert not bad, bad


class Answering:
    """Requests that the server is at: one that the browser has let go is worked on to its end."""

    def __init__(self) -> None:
        self._lock, self.count = Lock(), 0
        request_started.connect(self._begun)
        request_finished.connect(self._ended)

    def _begun(self, **_: Any) -> None:
        with self._lock:
            self.count += 1

    def _ended(self, **_: Any) -> None:
        with self._lock:
            self.count -= 1


answering = Answering()


def settle(page: Page, under_way: set[Any]) -> None:
    """Wait until every request is answered: one that still writes would block the emptying of the database."""
    quiet_ms = 0
    for _ in range(PATIENCE_MS // 50):
        page.wait_for_timeout(100)
        quiet_ms = 0 if under_way or answering.count > 0 else quiet_ms + 100
        if quiet_ms >= QUIET_MS:
            return


@pytest.fixture
def person(transactional_db: Any, django_user_model: Any) -> Any:
    return django_user_model.objects.create_user("mara", password=PASSWORD)


@pytest.fixture
def signed_in(page: Page, person: Any) -> Page:
    """Signed in by hand, as a person would."""
    page.goto("/")
    page.get_by_label("User name").fill("mara")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", name="New build")).to_be_visible()
    return page


@pytest.fixture
def recipe_build(signed_in: Page) -> Page:
    """A new build from the recipe, on its Route."""
    signed_in.get_by_role("button", name="Create build").click()
    expect(signed_in.get_by_test_id("terraces")).to_be_visible()
    return signed_in


@pytest.fixture
def axe(page: Page) -> Callable[[], list[str]]:
    def check() -> list[str]:
        page.evaluate(AXE.read_text())  # not add_script_tag: the security policy forbids inline scripts
        result = page.evaluate("axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']})")
        grave = [v for v in result["violations"] if v["impact"] in ("serious", "critical")]
        return [f"{v['id']}: {n['target']} {n['failureSummary']}" for v in grave for n in v["nodes"]]

    return check
