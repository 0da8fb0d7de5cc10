"""Properties of coolants and air, interpolated in tables made with CoolProp (``tools/make_fluid_tables.py``).

Coolants hold from their freezing point to 100 C; outside, figures are held at the table's end and ``frozen`` or
``inside`` masks say so. Mixtures are by MASS share.
"""

import json
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources
from typing import Any, Final

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.atmosphere import SEA_LEVEL_PA, air_density
from krill.physics.properties import FluidState, Saturation
from krill.units import kelvin

Array = NDArray[np.float64]
PROPERTIES: Final = ("density", "heat_capacity", "viscosity", "conductivity")
HIGHEST_MASS_SHARE: Final = 0.6
REFERENCE_C: Final = 35.0


@lru_cache(maxsize=1)
def _tables() -> dict[str, Any]:
    text = resources.files("krill.materials").joinpath("tables/fluids.json").read_text()
    data: dict[str, Any] = json.loads(text)
    return data


def _mixed(rows: Array, position: Array) -> Array:
    """Rows of a property by mass share (share, temperature), mixed at a fractional row; (temperature,)."""
    low = min(int(position), rows.shape[0] - 2)
    return np.asarray(rows[low] + (position - low) * (rows[low + 1] - rows[low]))


@dataclass(frozen=True)
class Coolant:
    """A coolant of a fixed mixture as uniform tables over temperature, 1 K apart."""

    name: str
    mass_share: float
    start_c: float
    tables: Array  # (property, temperature), viscosity as its logarithm
    freezing_c: float

    def state(self, temperature_c: ArrayLike) -> FluidState:
        """Properties at a temperature, any shape; held at the ends of the table."""
        T = np.asarray(temperature_c, dtype=np.float64)
        position = np.clip(T - self.start_c, 0.0, self.tables.shape[1] - 1.000001)
        index = position.astype(np.intp)
        part = position - index
        low = self.tables[:, index]
        values = low + part * (self.tables[:, index + 1] - low)
        return FluidState(values[0], values[1], np.exp(values[2]), values[3])

    def inside(self, temperature_c: ArrayLike) -> NDArray[np.bool_]:
        """True where the coolant is liquid and the table holds: freezing point to 100 C."""
        T = np.asarray(temperature_c, dtype=np.float64)
        return (self.freezing_c <= T) & (T <= 100.0)


@lru_cache(maxsize=64)
def coolant(name: str, mass_share: float = 0.0) -> Coolant:
    """Water or a glycol mixture by mass share 0..0.6."""
    data = _tables()
    grid = np.asarray(data["liquid_c"])
    table = data["ethylene_glycol" if name == "water" else name]
    shares = np.asarray(table["mass_share"])
    share = 0.0 if name == "water" else float(np.clip(mass_share, 0.0, HIGHEST_MASS_SHARE))
    position = np.asarray(np.interp(share, shares, np.arange(len(shares))))
    rows = []
    for key in PROPERTIES:
        values = np.array(table[key], dtype=np.float64)
        rows.append(_mixed(np.log(values) if key == "viscosity" else values, position))
    stacked = np.asarray(rows)
    liquid = np.all(np.isfinite(stacked), axis=0)
    first = int(np.argmax(liquid))
    ice = float(np.interp(share, table["ice_mass_share"], table["ice_c"]))
    return Coolant(name, share, float(grid[first]), stacked[:, first:], ice)


@lru_cache(maxsize=1)
def _air() -> tuple[Array, dict[str, Array]]:
    table = _tables()["air"]
    return np.asarray(table["air_c"]), {key: np.asarray(table[key]) for key in PROPERTIES}


def air(temperature_c: ArrayLike, pressure_pa: ArrayLike = SEA_LEVEL_PA) -> FluidState:
    """Dry air; density by the ideal gas at the pressure of the place, the rest from the table."""
    T = np.asarray(temperature_c, dtype=np.float64)
    grid, table = _air()
    heat_capacity, viscosity, conductivity = (np.interp(T, grid, table[key]) for key in PROPERTIES[1:])
    return FluidState(air_density(T, pressure_pa), heat_capacity, viscosity, conductivity)


def air_viscosity(temperature_c: ArrayLike) -> Array:
    """Dynamic viscosity of dry air, Pa s, any shape."""
    grid, table = _air()
    return np.asarray(np.interp(np.asarray(temperature_c, dtype=np.float64), grid, table["viscosity"]))


def water_surface_tension(temperature_c: ArrayLike) -> Array:
    """Saturated water, N/m: 0.2358 tau^1.256 (1 - 0.625 tau). IAPWS R1-76(2014)."""
    tau = 1.0 - kelvin(np.asarray(temperature_c, dtype=np.float64)) / 647.096
    return np.asarray(0.2358 * tau**1.256 * (1.0 - 0.625 * tau))


@lru_cache(maxsize=1)
def _saturation() -> tuple[Array, dict[str, Array]]:
    table = _tables()["saturation"]
    return np.asarray(table["c"]), {key: np.array(values, dtype=np.float64) for key, values in table.items()}


def saturated_water(temperature_c: ArrayLike) -> Saturation:
    """Properties at 1..160 C, held at the ends; pressure, densities and viscosities interpolated in logarithms."""
    grid, table = _saturation()
    T = np.clip(np.asarray(temperature_c, dtype=np.float64), grid[0], grid[-1])

    def curved(key: str) -> Array:
        return np.asarray(np.exp(np.interp(T, grid, np.log(table[key]))))

    return Saturation(
        curved("pressure"),
        np.asarray(np.interp(T, grid, table["latent_heat"])),
        np.asarray(np.interp(T, grid, table["liquid_density"])),
        curved("liquid_viscosity"),
        np.asarray(np.interp(T, grid, table["liquid_conductivity"])),
        curved("vapour_density"),
        curved("vapour_viscosity"),
        water_surface_tension(T),
    )


@lru_cache(maxsize=1)
def reference_water() -> FluidState:
    """Water at 35 C: what figures of plates and radiators are stated with."""
    return coolant("water").state(REFERENCE_C)
