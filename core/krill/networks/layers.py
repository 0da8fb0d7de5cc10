"""Conductances of the layers of every route: what no flow changes once, the rest for the flows of each round."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components import air_parts, solid_parts
from krill.components.figure_table import Values
from krill.components.heat_pipes import PipeGroup
from krill.networks.bodies import Spread
from krill.networks.pattern import OWN_ENTRIES, ThermalPattern
from krill.networks.states import MachineStates
from krill.networks.structure import Layer, PlaceRoute, Structure, layer_key
from krill.networks.zone_air import ZoneAir

Array = NDArray[np.float64]

#: a source that gives its heat straight to a zone's air and states no resistance
DIRECT_AIR_K_W = 0.05


@dataclass(frozen=True)
class Round:
    """What a round knows before its layers: conductances of plates and streams, air along its edges, m3/s, spreading."""

    plates: Array
    streams: Array
    volume: Array | None
    spread: dict[str, Spread]


@dataclass(frozen=True)
class _Fixed:
    """A layer that no flow changes, W/K."""

    conductance: Array


@dataclass(frozen=True)
class _Spreading:
    """A lid or block: its W/K follow what lies between it and the end of its route, K/W."""

    under: Callable[[Array], Array]


@dataclass(frozen=True)
class _Flowing:
    """A layer whose W/K follow the flows of a round."""

    at: Callable[[Round], Array]


_Law = _Fixed | _Spreading | _Flowing


@dataclass(frozen=True)
class _Step:
    """Layers side by side with their columns in the pattern (-1: an entry of another kind)."""

    columns: list[int]
    laws: list[_Law]

    def conductances(self, above: Array, now: Round) -> list[Array]:
        """W/K of each layer; ``above`` is what lies between the step and the end of its route, K/W."""
        return [
            law.conductance
            if isinstance(law, _Fixed)
            else law.under(above)
            if isinstance(law, _Spreading)
            else law.at(now)
            for law in self.laws
        ]


class LayerModel:
    """Layers of a structure in one batch of figures."""

    def __init__(
        self,
        structure: Structure,
        pattern: ThermalPattern,
        values: Values,
        states: MachineStates,
        zone_air: ZoneAir,
        pipes: list[PipeGroup],
    ) -> None:
        self._build, self._structure, self._pattern = structure.build, structure, pattern
        self._values, self._states, self._zone_air, self._pipes = values, states, zone_air, pipes
        self._settled = np.zeros((values.batch, len(pattern.layers)))
        self._moving = [steps for route in structure.all_routes if (steps := self._moving_steps(route))]

    def at(self, now: Round) -> Array:
        """W/K in the order of the pattern's layers, (batch, layer)."""
        layers = self._settled.copy()
        for steps in self._moving:
            above: Array = np.zeros(1)
            for step in steps:
                above = above + _across(step, step.conductances(above, now), layers)
        return layers

    def _moving_steps(self, route: PlaceRoute) -> list[_Step]:
        """Steps from the outside inwards as far as flows reach; whatever they do not reach is settled at once."""
        steps: list[_Step] = []
        reach = 0
        above: Array = np.zeros(1)
        for layers in reversed(route.steps):
            laws = [self._law(route, layer) for layer in layers]
            laws = [_Fixed(law.under(above)) if isinstance(law, _Spreading) and not reach else law for law in laws]
            steps.append(_Step([self._column(layer) for layer in layers], laws))
            if not all(isinstance(law, _Fixed) for law in laws):
                reach = len(steps)
            fixed = [law.conductance if isinstance(law, _Fixed) else np.ones(1) for law in laws]
            above = above + _across(steps[-1], fixed, self._settled)
        return steps[:reach]

    def _column(self, layer: Layer) -> int:
        """Column among the pattern's layers, -1 of one that has entries of another kind."""
        return -1 if layer.kind in OWN_ENTRIES else self._pattern.column_of[layer_key(layer)]

    def _law(self, route: PlaceRoute, layer: Layer) -> _Law:
        return LAYER_LAWS[layer.kind](self, route, layer)

    def _figure(self, address: str, missing: float | None = None) -> _Law:
        """A layer whose K/W a figure says."""
        return _Fixed(1.0 / self._values(address, missing))

    def hot_core(self, route: PlaceRoute, layer: Layer) -> _Law:
        return _Fixed(1.0 / solid_parts.hot_core_resistance(route.place, self._values, self._states.cores))

    def package(self, route: PlaceRoute, layer: Layer) -> _Law:
        return self._in_moving_air(route, 1.0 / self._values(f"{route.place.id}/package_k_w"))

    def chip(self, route: PlaceRoute, layer: Layer) -> _Law:
        return _Fixed(1.0 / solid_parts.chip_resistance(route.place, self._values))

    def joint(self, route: PlaceRoute, layer: Layer) -> _Law:
        return _Fixed(1.0 / solid_parts.joint_resistance(route.place, self._values))

    def lid(self, route: PlaceRoute, layer: Layer) -> _Law:
        return _Spreading(lambda above: 1.0 / solid_parts.lid_resistance(route.place, self._values, above))

    def interface(self, route: PlaceRoute, layer: Layer) -> _Law:
        part, face = self._build.part(_part_of(layer)), face_before(route, layer, self._values)
        return _Fixed(1.0 / solid_parts.interface_resistance(part, self._values, face))

    def spreader(self, route: PlaceRoute, layer: Layer) -> _Law:
        """A block by what it states, else by its sizes under the film above it."""
        if self._values.has(f"{_part_of(layer)}/resistance_k_w"):
            return self._figure(f"{_part_of(layer)}/resistance_k_w")
        part, face = self._build.part(_part_of(layer)), face_before(route, layer, self._values)
        return _Spreading(lambda above: 1.0 / solid_parts.spreader_resistance(part, self._values, face, above))

    def pipe_group(self, route: PlaceRoute, layer: Layer) -> _Law:
        group = self._pattern.column_of[layer_key(layer)]
        return _Fixed(self._pipes[group].as_stated)  # what lies under it spreads by this; its own heat is a law

    def contact(self, route: PlaceRoute, layer: Layer) -> _Law:
        body = route.body or ""
        node = [contact.node for contact in self._structure.contacts_of(body)].index(layer.inner)
        return _Flowing(lambda now: now.spread[body].star[:, node])

    def plate(self, route: PlaceRoute, layer: Layer) -> _Law:
        plate = self._pattern.column_of[layer_key(layer)]
        return _Flowing(lambda now: now.plates[:, plate])

    def stream(self, route: PlaceRoute, layer: Layer) -> _Law:
        stream = self._pattern.column_of[layer_key(layer)]
        return _Flowing(lambda now: now.streams[:, stream])

    def to_air(self, route: PlaceRoute, layer: Layer) -> _Law:
        assert layer.hop is not None
        return self._figure(f"{layer.hop.id}/resistance_k_w", DIRECT_AIR_K_W)

    def _in_moving_air(self, route: PlaceRoute, still: Array) -> _Law:
        """A package that its zone's air cools: its class says how, where nobody stated a figure."""
        place, zone = route.place, route.zone
        known = air_parts.moving_air_factor(place.class_, np.zeros(1)) is not None
        if zone is None or place.package_k_w is not None or not known:
            return _Fixed(still)
        law = self._values(f"{place.id}/law_moving", 1.0)

        def moving(now: Round) -> Array:
            velocity = None if now.volume is None else self._zone_air.velocity(zone, now.volume)
            factor = None if velocity is None else air_parts.moving_air_factor(place.class_, velocity)
            return still if factor is None else law * still / factor

        return _Flowing(moving)


#: how a layer of each kind conducts
LAYER_LAWS: Final[dict[str, Callable[[LayerModel, PlaceRoute, Layer], _Law]]] = {
    "hot_core": LayerModel.hot_core,
    "package": LayerModel.package,
    "chip": LayerModel.chip,
    "joint": LayerModel.joint,
    "lid": LayerModel.lid,
    "interface": LayerModel.interface,
    "spreader": LayerModel.spreader,
    "pipes": LayerModel.pipe_group,
    "contact": LayerModel.contact,
    "plate": LayerModel.plate,
    "stream": LayerModel.stream,
    "air": LayerModel.to_air,
}


def _part_of(layer: Layer) -> str:
    """The part that a layer's hop goes through."""
    return (layer.hop.part if layer.hop is not None else None) or ""


def _across(step: _Step, conductances: list[Array], layers: Array) -> Array:
    """K/W of a step; the W/K of its layers are written into their columns."""
    for column, conductance in zip(step.columns, conductances, strict=True):
        if column >= 0:
            layers[:, column] = conductance
    total = conductances[0] if len(conductances) == 1 else sum(conductances, np.zeros(1))
    return 1.0 / total


def face_before(route: PlaceRoute, layer: Layer, values: Values) -> Array | None:
    """Area that a layer of a route lies on, m2: the last block before it, else what the place offers."""
    area = solid_parts.contact_area(route.place, values)
    for other in route.layers[: route.layers.index(layer)]:
        if other.kind == "spreader" and other.hop is not None and values.has(f"{other.hop.part}/width_mm"):
            area = values(f"{other.hop.part}/width_mm") * values(f"{other.hop.part}/length_mm")
    return area
