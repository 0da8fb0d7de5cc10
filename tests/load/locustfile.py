"""A workshop under load: people edit, ask for bands, bring logs. ``bin/load`` runs it on a database of its own."""

import itertools
import json
import os
from functools import cache
from pathlib import Path
from typing import Any, Final

import gevent
from gevent.lock import BoundedSemaphore
from locust import HttpUser, between, constant, events, task
from locust.env import Environment

#: name and password of each person, one a line, as bin/users prints them
PEOPLE: Final = [line.split(": ") for line in Path(os.environ["KRILL_PEOPLE"]).read_text().splitlines()]
PAUSE_S: Final = 0.3  #: of a page between a change and what it asks for next
LOG_MB: Final = 49  #: and what the form needs around it
_numbers = itertools.count()
_one_upload = BoundedSemaphore(1)


class Person(HttpUser):
    """Somebody signed in, with a build of their own."""

    abstract = True
    host = os.environ.get("KRILL_ADDRESS", "http://127.0.0.1:8021")

    def on_start(self) -> None:
        number = next(_numbers)
        name, password = PEOPLE[number % len(PEOPLE)]
        self.client.get("/api/session", name="sign in")
        self._post("/api/login", {"username": name, "password": password}, "sign in")
        made = self._post("/api/builds/recipe", {"recipe": recipes(self)[number % 4]}, "make a build")
        self.build, self.sequence, self.document = made["id"], made["sequence"], made["document"]
        self.workload, self.changes = self.document["workloads"][-1]["id"], 0

    def _headers(self) -> dict[str, str]:
        return {"X-CSRFToken": self.client.cookies.get("csrftoken", "")}

    def _post(self, path: str, body: Any, name: str) -> Any:
        return self.client.post(path, json=body, headers=self._headers(), name=name).json()

    def edit(self) -> None:
        """Another air temperature of the first room: a change whose answer brings the central figures."""
        self.changes += 1
        patch = [{"op": "replace", "path": "/rooms/0/air_c", "value": 20 + self.changes % 100 / 10}]
        body = {
            "base": self.sequence,
            "patch": patch,
            "label": f"room {self.changes}",
            "asked": {"workload": self.workload},
        }
        path = f"/api/builds/{self.build}/draft"
        with self.client.patch(
            path, json=body, headers=self._headers(), name="edit, central figures", catch_response=True
        ) as answer:
            if not answer.ok:
                return
            told = answer.json()
            if told["sequence"] != self.sequence + 1 or not told["prediction"]:
                answer.failure(f"sequence {told['sequence']} after {self.sequence}, {told['unsolved']}")
            self.sequence = told["sequence"]

    def on_stop(self) -> None:
        """The last change that was acknowledged stands in the draft."""
        with self.client.get(f"/api/builds/{self.build}", name="look again", catch_response=True) as answer:
            if answer.ok and answer.json()["sequence"] != self.sequence:
                answer.failure("an edit is lost")


def recipes(person: Person) -> list[str]:
    """Four starts of those that there are: two water loops to each two of air."""
    known = [one["id"] for one in person.client.get("/api/recipes", name="recipes").json()]
    return [known[0], known[len(known) // 3], known[len(known) // 2], known[-1]]


class Editing(Person):
    """One figure every five seconds; bands and next changes follow, as a page asks for them."""

    wait_time = between(4, 6)  # not all in step

    @task
    def work(self) -> None:
        self.edit()
        gevent.sleep(PAUSE_S)
        body = {"workload": self.workload, "samples": 400, "sequence": self.sequence}
        self._post(f"/api/builds/{self.build}/outlook", body, "bands, next changes")


class AtOnce(Person):
    """One prediction with bands, all at the same time."""

    wait_time = constant(3600)

    def on_start(self) -> None:
        super().on_start()
        waiting.append(self)

    @task
    def ask(self) -> None:
        while len(waiting) < len(PEOPLE):
            gevent.sleep(0.1)
        body = {"document": self.document, "workloads": [self.workload], "samples": 400}
        self._post("/api/predict", body, "prediction with bands")


waiting: list[Person] = []


class Asking(Person):
    """One prediction after another: what the server's memory makes of it."""

    wait_time = constant(0)

    @task
    def ask(self) -> None:
        body = {"document": self.document, "workloads": [self.workload], "samples": 100}
        self._post("/api/predict", body, "prediction")


class Bringing(Person):
    """Large logs, one after the other."""

    fixed_count = 1
    wait_time = constant(0)

    def on_start(self) -> None:
        super().on_start()
        self._post(f"/api/builds/{self.build}/revisions", {"why": "to be measured"}, "keep a revision")

    @task
    def bring(self) -> None:
        with _one_upload:
            answer = self.client.post(
                f"/api/builds/{self.build}/runs/log",
                data={"workload": self.workload, "name": f"log {next(_numbers)}"},
                files={"file": ("large.csv", _log(), "text/csv")},
                headers=self._headers(),
                name=f"log of {LOG_MB} MB",
            )
        if not answer.ok:
            print(answer.text[:300])  # noqa: T201 - what the caller reads


class EditingMeanwhile(Editing):
    """As ``Editing``, beside the large logs."""

    fixed_count = 4


@cache
def _log() -> bytes:
    rows, wanted = [b"Time [s]," + b",".join(b"CPU Core %d [C]" % n for n in range(11))], LOG_MB * 2**20
    size = len(rows[0])
    while size < wanted:
        row = b"%d," % len(rows) + b",".join(b"%.3f" % (40 + (n * 7 + len(rows)) % 300 / 10) for n in range(11))
        rows.append(row)
        size += len(row) + 1
    return b"\n".join(rows)


@events.quitting.add_listener
def _tell(environment: Environment, **_: Any) -> None:
    """What was asked how often, p50, p95 and the slowest in ms, failures: one line of JSON each."""
    for entry in environment.stats.entries.values():
        told = {
            "name": entry.name,
            "count": entry.num_requests,
            "failures": entry.num_failures,
            "p50_ms": entry.get_response_time_percentile(0.5),
            "p95_ms": entry.get_response_time_percentile(0.95),
            "slowest_ms": entry.max_response_time,
        }
        print(json.dumps(told))  # noqa: T201 - what the caller reads
