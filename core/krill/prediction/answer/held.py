"""What holds parts up, and what lies beside hot ones, at the temperatures of a solved workload."""

from krill.document.build import Build
from krill.fit.holding import BesideHeat, JointHolds, beside_heat, joint_holds
from krill.prediction.answer.result import Band, BodyResult, PlaceResult, ZoneResult

#: temperatures by what has them: middle and upper end of the band, C
Warmth = dict[str, tuple[float, float]]


def warmth_of(places: list[PlaceResult], zones: list[ZoneResult], bodies: list[BodyResult]) -> Warmth:
    """Everything that has a temperature: bodies where they are hottest."""
    found: Warmth = {zone.address: _upper(zone.temperature_c, zone.band_c) for zone in zones}
    found |= {body.address: _upper(body.hottest_c, body.hottest_band_c) for body in bodies}
    return found | {place.address: _upper(place.temperature_c, place.band_c) for place in places}


def joints_at(build: Build, warmth: Warmth) -> list[JointHolds]:
    """Every joint at the temperature named for it, else at that of the hottest thing it holds."""
    found = []
    for holding in build.holdings:
        named = [holding.near] if holding.near is not None else _of_held(build, holding.parts)
        known = [warmth[one][0] for one in named if one in warmth]
        found.append(joint_holds(build, holding, max(known, default=None)))
    return found


def beside_at(build: Build, warmth: Warmth) -> list[BesideHeat]:
    """All that lies beside something hot."""
    found = []
    for near in build.near_heat:
        at, most = warmth.get(near.near, (None, 0.0))
        found.append(beside_heat(near, at, 0.0 if at is None else most - at))
    return found


def _upper(value: float, band: Band | None) -> tuple[float, float]:
    return value, value if band is None else band.high


def _of_held(build: Build, parts: list[str]) -> list[str]:
    """The parts themselves and the places in them."""
    places = [place for place, (_, owner) in build.place_owners().items() if owner.id in parts]
    return [*parts, *places]
