"""The roles that a channel of a log may have in a build, each with words for it."""

from typing import Final

from krill.document.build import Build
from krill.document.parts import Mover, Opening

IGNORE: Final = "ignore"


def roles_in(build: Build) -> dict[str, str]:
    """Every role by ``address/statistic``, in the order of the build, with its words; what nobody needs last."""
    found = {f"{place.id}/temperature": f"{place.name} temperature" for place, _ in build.place_owners().values()}
    for loop in build.loops:
        name = loop.name or loop.id
        found[f"{loop.id}/coolant_hot"] = f"{name} coolant, hottest"
        found[f"{loop.id}/coolant_cold"] = f"{name} coolant, coolest"
        found[f"{loop.id}/flow"] = f"{name} flow"
    found |= {f"{zone.id}/air": zone.name or zone.id for zone in build.zones if zone.kind == "box"}
    found["room/air"] = "Room"
    for source in build.heat_sources():
        for statistic, word in _OF_SOURCE.items():
            found[f"{source.id}/{statistic}"] = f"{source.name or source.id} {word}"
    for part in build.parts:
        if isinstance(part, Mover):
            found[f"{part.id}/speed"] = f"{part.name or part.id} speed"
            found[f"{part.id}/duty"] = f"{part.name or part.id} duty"
        if isinstance(part, Opening):
            found[f"{part.id}/air_speed"] = f"{part.name or part.id} air speed"
    return found | {"sound/level": "Sound level", "wall/wall_power": "Wall power", IGNORE: "not needed"}


_OF_SOURCE: Final = {"power": "power", "clock": "clock", "load": "use", "limit": "power limit"}
