"""What the home page says of a build: does it hold, by how much, what is tightest, and a small picture of its terraces."""

from collections.abc import Callable
from typing import Any

from builds.models import Build
from krill.document.build import Build as Document
from krill.document.figures import detail
from krill.document.reading import read_text
from krill.errors import KrillError
from krill.prediction.answer.result import PlaceResult, WorkloadResult
from krill.prediction.predict import predict
from wire.faults import faults_of
from wire.turns import worked_out

SAMPLES = 100
#: hops that the terrace under a tower stands for
_UNDER = ("shared", "body")


def card_of(build: Build) -> dict[str, Any]:
    """The card of the draft as it stands; computed once for each state of the draft and version of the core."""
    if build.fresh_card is not None:
        return build.fresh_card
    card = _answered(lambda: read_text(build.text))
    # not by save(): a card that is computed is no change of the build
    Build.objects.filter(pk=build.pk).update(card=card, card_of=build.card_state)
    return card


def card_of_document(document: Document) -> dict[str, Any]:
    """The card of a document that is not stored."""
    return _answered(lambda: document)


def _answered(read: Callable[[], Document]) -> dict[str, Any]:
    try:
        document = read()
        return _judged(document) if document.workloads else _unknown("no workload", "Heat")
    except KrillError as error:
        fault = faults_of(error)[0]
        return _unknown(fault.what, fault.where)


def _unknown(what: str, where: str) -> dict[str, Any]:
    return {"status": "unknown", "missing": what, "where": where, "towers": []}


def _judged(document: Document) -> dict[str, Any]:
    """By the tightest place of all workloads in the hottest room of the brief, else in the first."""
    found = worked_out(predict, document, None, _hottest_c(document), SAMPLES).workloads
    unsolved = next((workload for workload in found if workload.no_state is not None), None)
    if unsolved is not None and unsolved.no_state is not None:
        return _unknown(unsolved.no_state.what, unsolved.name)
    judged = [(place, workload) for workload in found for place in workload.places if place.margin_k is not None]
    if not judged:
        return _unknown("no part has a limit", "Heat")
    place, workload = min(judged, key=lambda pair: _least(pair[0]))
    ceiling = next(item.sound_ceiling_dba for item in document.workloads if item.id == workload.workload)
    band = place.margin_band_k
    return {
        "status": place.status,
        "margin_k": place.margin_k,
        "half_k": None if band is None else (band.high - band.low) / 2,
        "place": place.name,
        "workload": workload.name,
        "room_c": workload.room_c,
        "sound_dba": workload.sound.total_dba,
        "ceiling_dba": None if ceiling is None else float(ceiling),
        "towers": [tower for place in workload.places for tower in _tower(place, workload)],
    }


def _hottest_c(document: Document) -> float | None:
    """Of the room that the brief calls its hottest; None asks for the first."""
    room = next((room for room in document.rooms if room.id == document.brief.hottest_room), None)
    return None if room is None else float(detail(room.air_c).value)


def _least(place: PlaceResult) -> float:
    assert place.margin_k is not None
    return place.margin_band_k.low if place.margin_band_k is not None else place.margin_k


def _tower(place: PlaceResult, workload: WorkloadResult) -> list[dict[str, Any]]:
    """A place as the small picture draws it: watts wide, on its terrace, a block for each hop; kelvins over the room."""
    terrace = next((item for item in workload.terraces if item.address == place.terrace), None)
    if terrace is None:
        return []
    drops = [round(hop.drop_k, 2) for hop in reversed(place.hops) if hop.kind not in _UNDER]
    limit = None if place.limit_c is None else place.limit_c - workload.room_c
    return [{"watts": place.watts, "floor_k": terrace.over_room_k, "drops_k": drops, "limit_k": limit}]
