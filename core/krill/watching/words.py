"""What failed, in words: what is seen, and what to do first."""

from typing import Final

from krill.document.build import Build
from krill.runs.roles import roles_in
from krill.watching.kinds import FailureKind
from krill.watching.movers import Failed

#: failures under load that nothing but taking the load off helps against in time
STOPS: Final[frozenset[FailureKind]] = frozenset({"pump-stops", "air-lock", "feed-lost"})
_DO: Final[dict[FailureKind, str]] = {
    "pump-stops": "stands still. Take the load off, then look at its plug and feed",
    "fan-stalls": "stands still. Look at its lead, its plug and what reaches into its blades",
    "air-lock": "coolant does not move though its pump turns. Take the load off, top up and bleed",
    "filter-clogs": "lets less air through: temperatures rise anew though watts and speeds are as they were",
    "sensor-stuck": "shows the same figure while its neighbours move",
    "sensors-swapped": "have changed places: leads or channels are swapped",
    "throttles": "draws less than it did under the same load",
    "room-drifts": "has moved by more than 1 K since the load came on; note it beside the intake",
    "supply-sags": "All fans and pumps run slower by the same share: the supply sags",
    "feed-lost": "is lost: everything on it stands still. Take the load off",
    "samples-dropped": "Samples are missing",
    "samples-doubled": "Samples came twice; they are counted once",
    "clock-jumps": "The logger's clock was set on the way; the run keeps its steady time",
    "logger-restarts": "The logger began anew",
}


def named(build: Build, failed: Failed) -> str:
    """What it befell, as the build calls it."""
    roles = roles_in(build)
    known = {item.id: item.name or item.id for item in [*build.parts, *build.loops, *build.zones, *build.feeds]}
    known["room"] = "The room"
    words = [roles.get(address, known.get(address, address)) for address in failed.on]
    return (" or " if failed.kind == "feed-lost" else " and ").join(words)


def told(build: Build, failed: Failed) -> str:
    """One sentence."""
    name, text = named(build, failed), _DO[failed.kind]
    if failed.kind == "throttles" and failed.also:
        place = build.place_owners()[failed.also[0]][0]
        return f"{name} {text}: {place.name or place.id} is at its limit."
    if failed.kind == "throttles":
        return f"{name} {text}, below every limit of temperature: a power limit, its regulators or the supply."
    return f"{name} {text}." if name and text[0].islower() else f"{text}."
