"""Makes krill/materials/tables/fluids.json from CoolProp: water, both glycol mixtures by mass share, air.

Run in the core's development environment: python tools/make_fluid_tables.py
"""

import json
import math
from pathlib import Path

from CoolProp.CoolProp import PropsSI

TARGET = Path(__file__).parents[1] / "krill/materials/tables/fluids.json"
KEYS = {"density": "D", "heat_capacity": "C", "viscosity": "V", "conductivity": "L"}
PRESSURE = 101325.0


def rounded(value: float) -> float | None:
    return None if math.isnan(value) else float(f"{value:.9g}")


def column(fluid: str, temperatures: list[float]) -> dict[str, list[float | None]]:
    def at(key: str, t: float) -> float:
        try:
            return float(PropsSI(key, "T", t + 273.15, "P", PRESSURE, fluid))
        except ValueError:
            return math.nan  # frozen: the table says so by a missing figure

    return {name: [rounded(at(key, t)) for t in temperatures] for name, key in KEYS.items()}


def freezing(code: str, shares: list[float]) -> list[float | None]:
    """Freezing points of a mixture by mass share, C; of water as steam tables have it."""

    def at(share: float) -> float:
        fluid = f"INCOMP::{code}[{share}]"
        return 0.0 if share == 0.0 else float(PropsSI("T_freeze", "T", 300.0, "P", PRESSURE, fluid)) - 273.15

    return [rounded(at(share)) for share in shares]


def saturation(temperatures: list[float]) -> dict[str, list[float | None]]:
    """Water and its vapour on the saturation line."""

    def at(key: str, quality: int) -> list[float]:
        return [float(PropsSI(key, "T", t + 273.15, "Q", quality, "Water")) for t in temperatures]

    liquid, vapour = at("H", 0), at("H", 1)
    columns = {
        "c": temperatures,
        "latent_heat": [v - w for v, w in zip(vapour, liquid, strict=True)],
        "pressure": at("P", 0),
        "liquid_density": at("D", 0),
        "liquid_viscosity": at("V", 0),
        "liquid_conductivity": at("L", 0),
        "vapour_density": at("D", 1),
        "vapour_viscosity": at("V", 1),
    }
    return {name: [rounded(value) for value in values] for name, values in columns.items()}


def main() -> None:
    liquid = [float(t) for t in range(-30, 101, 1)]
    water = [t if t < 99.9 else 99.9 for t in liquid]
    water[30] = 0.01
    shares = [0.0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6]
    pure = column("Water", water)
    for values in pure.values():
        values[:30] = [None] * 30
    data: dict[str, object] = {"made_by": "tools/make_fluid_tables.py with CoolProp 8", "liquid_c": liquid}
    for name, code in (("ethylene_glycol", "MEG"), ("propylene_glycol", "MPG")):
        columns = [pure] + [column(f"INCOMP::{code}[{w}]", liquid) for w in shares[1:]]
        fine = [round(0.02 * step, 2) for step in range(31)]
        ice = {"ice_mass_share": fine, "ice_c": freezing(code, fine)}
        data[name] = {"mass_share": shares, **ice, **{key: [c[key] for c in columns] for key in KEYS}}
    air = [float(t) for t in range(-40, 201, 5)]
    data["air"] = {"air_c": air, **column("Air", air)}
    data["saturation"] = saturation([float(t) for t in range(1, 161)])
    TARGET.write_text(json.dumps(data, separators=(",", ":")) + "\n")


if __name__ == "__main__":
    main()
