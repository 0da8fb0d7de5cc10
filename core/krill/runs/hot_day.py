"""What learning changes about the day that a build is made for: its hottest room and worst workload, before and after."""

from dataclasses import dataclass

from krill.document.build import Build
from krill.document.calibration import Calibration
from krill.document.figures import detail
from krill.prediction.answer.result import PlaceResult
from krill.prediction.answer.workload_states import worst_workload
from krill.prediction.predict import predict


@dataclass(frozen=True)
class PlaceBefore:
    """One place as assumed and as learnt, C, with the middle 90 %; ``read`` says whether any run read it."""

    address: str
    name: str
    limit_c: float | None
    before_c: float
    before_low: float
    before_high: float
    after_c: float
    after_low: float
    after_high: float
    status: str
    read: bool


@dataclass(frozen=True)
class HotDay:
    workload: str
    workload_name: str
    room_c: float
    places: list[PlaceBefore]


def hot_day(build: Build, calibration: Calibration, samples: int = 200) -> HotDay:
    """The worst workload in the brief's hottest room, without and with what was learnt; the tightest place first."""
    rooms = {room.id: float(detail(room.air_c).value) for room in build.rooms}
    room_c = rooms.get(build.brief.hottest_room or "", float(detail(build.rooms[0].air_c).value))
    workload = worst_workload(build)
    assumed, learnt = (
        predict(build.model_copy(update={"calibration": known}), [workload], room_c, samples).workloads[0]
        for known in (None, calibration)
    )
    after = {place.address: place for place in learnt.places}
    places = [_place(a, after[a.address], calibration) for a in assumed.places if a.address in after]
    places.sort(key=lambda p: (p.limit_c is None, (p.limit_c or 0.0) - p.after_c))
    return HotDay(workload, assumed.name, room_c, places)


def _place(assumed: PlaceResult, learnt: PlaceResult, calibration: Calibration) -> PlaceBefore:
    def ends(place: PlaceResult) -> tuple[float, float]:
        band = place.band_c
        return (place.temperature_c, place.temperature_c) if band is None else (band.low, band.high)

    return PlaceBefore(
        assumed.address,
        assumed.name,
        None if assumed.margin_k is None else assumed.margin_k + assumed.temperature_c,
        assumed.temperature_c,
        *ends(assumed),
        learnt.temperature_c,
        *ends(learnt),
        learnt.status,
        f"{assumed.address}/temperature" in calibration.places,
    )
