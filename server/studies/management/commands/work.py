import asyncio
import logging
from argparse import ArgumentParser
from typing import Any

from asgiref.sync import sync_to_async
from django.core.management.base import BaseCommand, CommandError
from django.db import close_old_connections
from procrastinate import App
from procrastinate.contrib.django import app

from studies.rescue import must_not_be_deadly, queue_what_nobody_is_at
from studies.tasks import QUEUE
from wire.threads import roomy_stacks
from wire.upgrades import must_not_be_newer

log = logging.getLogger(__name__)
HEARTBEAT_S = 2.0


class Command(BaseCommand):
    help = "Solve queued studies; run as many as there are cores, on any machine that reaches the database"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--once", action="store_true", help="stop when the queue is empty")
        parser.add_argument(
            "--stalled-after",
            type=float,
            default=10.0,
            metavar="SECONDS",
            help="a worker silent for so long is taken for dead and its study goes on here",
        )

    def handle(self, *args: Any, **options: Any) -> None:
        must_not_be_newer()
        own = app.connector.get_worker_connector()  # type: ignore[attr-defined]
        with roomy_stacks(), app.replace_connector(own) as worker:
            asyncio.run(work(worker, options["stalled_after"], once=options["once"]))


async def work(worker: App, stalled_after: float, *, once: bool) -> None:
    """Solve what is queued, and take over what dead workers left."""
    async with worker.open_async():
        await rescue(worker, stalled_after)
        watching = asyncio.create_task(_watch(worker, stalled_after))
        working = asyncio.create_task(
            worker.run_worker_async(
                queues=[QUEUE, "nightly"],
                wait=not once,
                concurrency=1,
                update_heartbeat_interval=HEARTBEAT_S,
                stalled_worker_timeout=stalled_after,
                delete_jobs="successful",
            )
        )
        try:
            await asyncio.wait({watching, working}, return_when=asyncio.FIRST_COMPLETED)
        finally:
            for task in (watching, working):
                task.cancel()
            ended = await asyncio.gather(watching, working, return_exceptions=True)
        for error in ended:
            if isinstance(error, Exception):
                raise error


async def _watch(worker: App, stalled_after: float) -> None:
    """Look after studies now and then; ends with CommandError once a newer Krill has upgraded the database."""
    while True:
        await asyncio.sleep(stalled_after / 2)
        try:
            await sync_to_async(_look_at_database)()
            await rescue(worker, stalled_after)
        except CommandError:
            raise
        except Exception:
            log.exception("looking after studies failed; it is tried again")


async def rescue(worker: App, stalled_after: float) -> None:
    """Queue again what a worker was at that is silent, and studies that nobody is at."""
    for job in await worker.job_manager.get_stalled_jobs(queue=QUEUE, seconds_since_heartbeat=stalled_after):
        await sync_to_async(must_not_be_deadly)(str(job.task_kwargs.get("study_id")), job.attempts)
        await worker.job_manager.retry_job(job)
    await sync_to_async(_queue_again)()


def _look_at_database() -> None:
    close_old_connections()
    must_not_be_newer()


def _queue_again() -> None:
    close_old_connections()
    queue_what_nobody_is_at()
