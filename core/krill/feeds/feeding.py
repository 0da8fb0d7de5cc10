"""What feeds a build in one workload: every plug, every supply, and what hangs on nothing."""

from collections.abc import Mapping
from dataclasses import dataclass

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.errors import DocumentRefused, Problem
from krill.feeds.loads import FeedLoad, feed_loads, unfed
from krill.feeds.supply_loads import SupplyLoad, supply_loads


@dataclass(frozen=True, slots=True)
class Feeding:
    """Feeds and supplies in a workload; ``unfed`` are consumers that name no feed though the build has some."""

    feeds: list[FeedLoad]
    supplies: list[SupplyLoad]
    unfed: list[str]


def feeding(build: Build, workload: str, inlet_c: Mapping[str, float] | None = None) -> Feeding:
    """DocumentRefused names a workload that is not there; ``inlet_c`` is the air that supplies breathe, °C."""
    found = next((one for one in build.workloads if one.id == workload), None)
    if found is None:
        known = ", ".join(one.id for one in build.workloads)
        raise DocumentRefused([Problem("workload", f"there is no '{workload}'", known)])
    figures = FigureTable(build)
    return Feeding(feed_loads(build, figures, found), supply_loads(build, figures, found, inlet_c), unfed(build))
