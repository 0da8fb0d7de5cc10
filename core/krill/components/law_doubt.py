"""How far a law may be off on each surface that it is used on: a factor of one, drawn with the law's published scatter."""

from collections.abc import Iterator
from typing import Final

from krill.components.flat_faces import OTHER_SIDE
from krill.document.build import Build, leaves
from krill.document.geometry import close_to, lie_of, stand_of
from krill.document.parts import Duct, Gap, Obstacle, Place, Tube
from krill.document.solids import Interface, Lie, Panel, Sink, Stand
from krill.physics import (  # noqa: F401 - what registers the laws
    conduction,
    fin_channels,
    mixed_convection,
    natural_convection,
    pipe_flow,
    spreading,
)
from krill.physics.correlation import REGISTRY

#: fins that look down or lie across a wall have no published law of their own (common practice)
UNPUBLISHED: Final[dict[Stand, float]] = {"lying_fins_down": 0.25, "on_edge": 0.40}
_OF_STAND: Final[dict[Stand, str]] = {"upright": "nusselt_channel", "lying_fins_up": "nusselt_lying_fins"}
_OF_LIE: Final[dict[Lie, str]] = {
    "vertical": "nusselt_vertical_plate",
    "facing_up": "nusselt_facing_up",
    "facing_down": "nusselt_facing_down",
}

#: (address, what the factor stands on, name of the law, half width of 90 %)
Doubt = tuple[str, str, str, float]


def law_doubts(build: Build) -> Iterator[Doubt]:
    """Every law of a build that is computed from geometry, with the surface that it is used on."""
    in_air = {item for path in build.air_paths for item in leaves(path.elements)}
    for part in build.parts:
        if isinstance(part, Sink):
            yield from _sink(build, part, part.id in in_air)
        elif isinstance(part, Panel):
            lie = lie_of(build, part)
            yield _published(f"{part.id}/law_outside", "film of its outer side", _OF_LIE[lie])
            yield _published(f"{part.id}/law_inside", "film of its inner side", _OF_LIE[OTHER_SIDE[lie]])
        elif isinstance(part, Tube | Duct):
            yield _published(f"{part.id}/law_friction", "friction", "friction_churchill")
        elif isinstance(part, Gap):
            yield _published(f"{part.id}/law_loss", "loss of a close panel", "loss_close_panel")
        elif isinstance(part, Obstacle):
            yield _published(
                f"{part.id}/law_loss", "loss of what blocks", "loss_bundles" if part.leads else "loss_blockage"
            )
        elif isinstance(part, Interface) and part.pressure_kpa is not None:
            yield _published(f"{part.id}/law_joint", "contact of bare faces", "contact_conductance")
    for part_id in close_to(build):
        yield _published(f"{part_id}/law_near", "loss of what stands close", "loss_close_panel")
    for place, _ in build.place_owners().values():
        yield from _place(place)


def _sink(build: Build, sink: Sink, driven: bool) -> Iterator[Doubt]:
    stand = stand_of(build, sink)
    if stand in UNPUBLISHED:
        yield f"{sink.id}/law_outside", "film between its fins", "", UNPUBLISHED[stand]
    else:
        yield _published(f"{sink.id}/law_outside", "film between its fins", _OF_STAND[stand])
    yield _published(f"{sink.id}/law_inside", "film of its back", _OF_LIE[OTHER_SIDE[lie_of(build, sink)]])
    if driven:
        yield _published(f"{sink.id}/law_stream", "film in its stream", "nusselt_driven_channel")


def _place(place: Place) -> Iterator[Doubt]:
    yield _published(f"{place.id}/law_lid", "spreading in its lid", "spreading_lee")
    yield _published(f"{place.id}/law_moving", "still and moving air joined", "joined_films")


def _published(address: str, words: str, law: str) -> Doubt:
    return address, words, law, REGISTRY[law].scatter
