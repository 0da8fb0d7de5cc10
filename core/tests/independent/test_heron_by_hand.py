"""The demo build solved once more by a short script of its own: scipy.optimize.root on plain equations.

Same correlations and class tables, other code: one coolant flow, three air flows, a handful of temperatures. Equal to
0.01 K. Nothing of krill's networks is used.
"""

import json
from pathlib import Path

import numpy as np
import pytest
from fluids.friction import Churchill_1977
from ht.conv_internal import Nu_laminar_rectangular_Shan_London, turbulent_Gnielinski
from ht.hx import effectiveness_from_NTU
from machines import radiator_row
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq, root

from krill.catalogue.classes import classes
from krill.document.reading import read_object
from krill.materials.fluids import air, coolant
from krill.prediction.predict import predict

HERON = Path(__file__).parents[1] / "saved_documents/issue-2-heron.json"
CP_AIR, RHO_0, ROOM = 1006.5, 1.18, 24.0
LITRE = 1e-3 / 60


def figure(value):
    return value["value"] if isinstance(value, dict) else value


class Hand:
    """Figures of the document by id, class defaults beneath them."""

    def __init__(self, raw):
        self.raw = raw
        self.items = {p["id"]: p for p in raw["parts"]} | {
            q["id"]: q for p in raw["parts"] for q in p.get("places", [])
        }
        self.workload = next(w for w in raw["workloads"] if w["id"] == "both")

    def __call__(self, item, field, missing=None):
        part = self.items[item]
        if field in part:
            return figure(part[field])
        entry = classes().get(part.get("class", ""))
        return entry.figures[field][0] if entry and field in entry.figures else missing

    def watts(self, source):
        return figure(self.workload["watts"][source])

    def duty(self, mover):
        return self.workload["movers"][mover]["duty"]


def fan_head(h, fan, Q, rho):
    n, points = h.duty(fan), np.array(classes()[h.items[fan]["class"]].curve, dtype=float)
    return rho / RHO_0 * n**2 * float(PchipInterpolator(points[:, 0] / 3600, points[:, 1])(Q / n))


def tubes(part, flow, liquid):
    """W/K inside the flat tubes of a section: laminar by ht's rectangular duct, Gnielinski above, mixed between."""
    depth, pitch = np.interp(part["thickness_mm"], [28, 38], [18, 26]), 9.5
    width, height = depth / 1e3 - 3e-4, 1.7e-3
    count = round(0.96**0.5 * part["section_mm"] / pitch)
    D, v = 2 * width * height / (width + height), flow / (count / 2) / (width * height)
    Re = float(liquid.density) * v * D / float(liquid.viscosity)
    Pr = float(liquid.viscosity * liquid.heat_capacity / liquid.conductivity)
    laminar = Nu_laminar_rectangular_Shan_London(height / width)
    fast = max(Re, 3000.0)
    rough = (0.79 * np.log(fast) - 1.64) ** -2
    turbulent = turbulent_Gnielinski(Re=fast, Pr=Pr, fd=rough)
    share = np.clip((Re - 2300) / 1700, 0, 1)
    Nu = (1 - share) * laminar + share * max(turbulent, laminar)
    return Nu * float(liquid.conductivity) / D * 2 * (width + height) * count * part["section_mm"] / 1e3


def radiator(part, air_m, coolant_m, cp, mixture):
    """Watts a kelvin between the inlets: UA from the class table by this script's own inversion."""
    row, face = radiator_row(part["section_mm"], part["thickness_mm"]), 0.96 * (part["section_mm"] / 1000) ** 2
    water = coolant("water").state(35.0)
    loop = 4 * LITRE * float(water.density * water.heat_capacity)
    UA = []
    for v, w_k in zip(row.face_velocity, row.w_k, strict=True):
        c = 2 * RHO_0 * CP_AIR * v * face
        least, ratio = min(c, loop), min(c, loop) / max(c, loop)

        def missing(ntu, least=least, ratio=ratio, w_k=w_k):
            return least * effectiveness_from_NTU(ntu, ratio, subtype="crossflow") - 2 * w_k

        UA.append(brentq(missing, 1e-6, 11) * least / 2)
    v = air_m / RHO_0 / (part["sections"] * face)
    x, grid, y = np.log(v), np.log(row.face_velocity), np.log(UA)
    i = int(np.clip(np.searchsorted(grid, x) - 1, 0, 2))
    one = np.exp(y[i] + (y[i + 1] - y[i]) / (grid[i + 1] - grid[i]) * (x - grid[i]))
    stated = tubes(part, 4 * LITRE, water)
    inside = min(1 / stated, 0.7 / one)
    ua = part["sections"] / (1 / one + inside * (stated / tubes(part, coolant_m / float(mixture.density), mixture) - 1))
    least, most = sorted((air_m * CP_AIR, coolant_m * cp))
    return least * effectiveness_from_NTU(ua / least, least / most, subtype="crossflow")


def radiator_air_drop(part, Q, air_c):
    """At the density and viscosity of the air that enters: the linear part follows the one, the square the other."""
    row, A = (
        radiator_row(part["section_mm"], part["thickness_mm"]),
        part["sections"] * 0.96 * (part["section_mm"] / 1e3) ** 2,
    )
    a, b = np.linalg.lstsq(np.stack([row.face_velocity, row.face_velocity**2], 1), row.pressure_pa, rcond=None)[0]
    return air(air_c).viscosity / 1.85e-5 * a * Q / A + rho_air(air_c) / RHO_0 * b * (Q / A) ** 2


def opening_drop(h, part, Q):
    return h(part, "loss") * RHO_0 / 2 * (Q / (h(part, "area_cm2") * 1e-4)) ** 2


def rho_air(T):
    return 101325 / (287.05287 * (T + 273.15))


def lid_spreading(A1, A2, t, k, above):
    a, b = np.sqrt(A1 / np.pi), np.sqrt(A2 / np.pi)
    eps, lam = a / b, np.pi + b / (np.sqrt(np.pi) * a)
    bi = b / (A2 * above * k)
    phi = (np.tanh(lam * t / b) + lam / bi) / (1 + lam / bi * np.tanh(lam * t / b))
    return 0.5 * (1 - eps) ** 1.5 * phi / (k * np.sqrt(A1))


def loop_pressure(h, Q, rho, mu):
    """What the loop takes at a flow, and what the pump gives."""

    def scale(n):  # a drop of Q^n: its friction factor goes with Re^(n-2)
        return (rho / 994.0) ** (n - 1) * (mu / 7.19e-4) ** (2 - n)

    d = h("tube", "bore_mm") / 1000
    v = Q / (np.pi / 4 * d**2)
    roughness = h("tube", "roughness_mm") / 1000
    total = Churchill_1977(rho * v * d / mu, roughness / d) * h("tube", "length_m") / d * rho * v**2 / 2
    for part in ("fittings", "elbows", "reservoir"):
        bore = h(part, "bore_mm") / 1000
        count = h.items[part].get("count", 1)
        total += count * h(part, "loss") * rho / 2 * (Q / (np.pi / 4 * bore**2)) ** 2
    for part in ("plate-processor", "plate-graphics"):
        one, four = 1000 * h(part, "drop_1_kpa"), 1000 * h(part, "drop_4_kpa")
        n = np.log(four / one) / np.log(4)
        total += scale(n) * four * (Q / (4 * LITRE)) ** n
    for part in ("radiator-bottom", "radiator-rear"):
        p = h.items[part]
        four = 1000 * radiator_row(p["section_mm"], p["thickness_mm"]).coolant_kpa * (0.72 + 0.14 * p["sections"])
        total += scale(1.8) * four * (Q / (4 * LITRE)) ** 1.8
    points, n = np.array(classes()["pump_strong"].curve, dtype=float), h.duty("pump")
    return rho / 994.0 * n**2 * float(PchipInterpolator(points[:, 0] * LITRE, points[:, 1] * 1000)(Q / n)) - total


def solve(h):
    share = {p: h(p, "power_share") for p in ("graphics-chip", "graphics-memory", "graphics-regulators")}
    fans = ("fan-bottom-left", "fan-bottom-right", "fan-rear")
    fan_w = {f: h(f, "power_w") * h.duty(f) ** 3 for f in fans}
    pump_w = h("pump", "power_w") * h.duty("pump") ** 2.5
    into_coolant = h("pump", "coolant_share") * pump_w
    sources = sum(h.watts(s) for s in ("processor", "graphics", "memory", "drive", "regulators"))
    rating, half = h("supply", "rating_w"), 0.5 * (1 / h("supply", "efficiency") - 1)
    x = (sources + pump_w + sum(fan_w.values())) / rating
    loss = rating * half * (0.0231 + 0.0081 * x + 0.1175 * x**2) / (0.0231 + 0.0081 / 2 + 0.1175 / 4)
    rest = h.watts("graphics") * (1 - sum(share.values())) + pump_w - into_coolant
    still = h.watts("memory") + h.watts("drive") + h.watts("regulators") + loss + rest
    on_graphics = h.watts("graphics") * sum(share.values())
    bottom, rear = h.items["radiator-bottom"], h.items["radiator-rear"]
    mixture = coolant("propylene_glycol", 0.1)

    def equations(x):
        Q, one_fan, Q_rear, Q_front, pressure, T1, T2, T3, T4, T5, box, T_mean = x
        Q, one_fan, Q_rear, Q_front = Q * LITRE, one_fan / 3600, Q_rear / 3600, Q_front / 3600
        state = mixture.state(T_mean)
        rho, cp = float(state.density), float(state.heat_capacity)
        m, C = Q * rho, Q * rho * cp
        rho_room, rho_box = rho_air(ROOM), rho_air(box)
        # air in at the bottom is heated by the fans, then by the radiator; its elements see their own inlet's density
        warm = ROOM + fan_w["fan-bottom-left"] / (one_fan * rho_room * CP_AIR)
        m_bottom = 2 * one_fan * rho_room
        thin = rho_room / RHO_0
        drop = thin * opening_drop(h, "feet", 2 * one_fan)
        v = 2 * one_fan / (h("filter-bottom", "area_cm2") * 1e-4)
        drop += air(ROOM).viscosity / 1.85e-5 * 2 * v + thin * 2 * v**2
        rho_warm = rho_air(warm)
        drop += radiator_air_drop(bottom, m_bottom / rho_warm, warm)
        column = (
            9.80665 * (rho_box - rho_room) * h.raw["housing"]["inner_size_mm"][2] / 2000
        )  # from the floor to the middle
        bottom_balance = fan_head(h, "fan-bottom-left", one_fan, rho_room) - drop - pressure - column
        m_rear = Q_rear * rho_box
        G_bottom = radiator(bottom, m_bottom, m, cp, state)
        G_rear = radiator(rear, m_rear, m, cp, state)
        q_bottom, q_rear = G_bottom * (T3 - warm), G_rear * (T4 - box)
        after = box + q_rear / (m_rear * CP_AIR)  # air behind the rear radiator
        rho_after = rho_air(after)
        hotter = after + fan_w["fan-rear"] / (m_rear * CP_AIR)
        rho_hotter = rho_air(hotter)
        drop = radiator_air_drop(rear, Q_rear, box)
        drop += rho_hotter / RHO_0 * opening_drop(h, "rear-guard", m_rear / rho_hotter)
        rear_balance = fan_head(h, "fan-rear", m_rear / rho_after, rho_after) - drop + pressure
        m_front = Q_front * rho_box  # the front slots run outwards here
        front_balance = rho_box / RHO_0 * opening_drop(h, "front-slots", Q_front) - pressure
        wall = h.raw["zones"][1]
        walls = figure(wall["wall_w_k"]) * ((box - ROOM) / 15) ** 0.2 * (box - ROOM)
        inlet = warm + q_bottom / (m_bottom * CP_AIR)
        box_heat = m_bottom * CP_AIR * (inlet - box) + still - walls
        return [
            loop_pressure(h, Q, rho, float(state.viscosity)) / 100,
            bottom_balance,
            rear_balance,
            front_balance,
            (m_bottom - m_rear - m_front) * 1e3,
            C * (T1 - T5) - into_coolant,
            C * (T2 - T1) - h.watts("processor"),
            C * (T3 - T2) - on_graphics,
            C * (T3 - T4) - q_bottom,
            C * (T4 - T5) - q_rear,
            box_heat,
            # properties at the mean of the loop's junctions: two behind pump and tube, one each, three behind the last radiator
            (2 * T1 + T2 + 2 * T3 + T4 + 3 * T5) / 9 - T_mean,
        ]

    start = [3, 38, 45, 30, 1.5, 42, 43, 44, 42, 42, 40, 42]
    found = root(equations, start, tol=1e-12)
    assert found.success, found.message
    return found.x


def in_moving_air(h, place, through):
    """Still and moving air by cubes, the moving share with velocity^0.5; the box is as wide as a cube of its volume."""
    known = classes()[h.items[place]["class"]].extra
    velocity = through / (np.prod(h.raw["housing"]["inner_size_mm"]) * 1e-9) ** (2 / 3)
    still, moving = 1 / known["still_k_w"], 1 / known["moving_k_w"]
    return 1 / np.cbrt(still**3 + (moving**3 - still**3) * (velocity / 1.5) ** 1.5)


def by_hand(h):
    flow, one_fan, Q_rear, Q_front, _, T1, T2, T3, _, _, box, T_mean = solve(h)
    mixture, water = coolant("propylene_glycol", 0.1).state(T_mean), coolant("water").state(35.0)
    entry = (mixture.conductivity / water.conductivity) ** (2 / 3)
    entry *= (mixture.density * mixture.heat_capacity / water.density / water.heat_capacity) ** (1 / 3)

    def plate(part):
        one, four = h(part, "resistance_1_k_w"), h(part, "resistance_4_k_w")
        film = (
            (one - four) / (1 - 4 ** (-1 / 3)) * flow ** (-1 / 3)
        )  # laminar entry: the rest of the two points is metal
        return one * flow ** (np.log(four / one) / np.log(4)) + film * (1 / float(entry) - 1)

    area = {
        p: h(p, "chip_area_mm2") * 1e-6
        for p in ("processor-core", "graphics-chip", "graphics-memory", "graphics-regulators")
    }
    lid = h("processor-core", "lid_area_mm2") * 1e-6
    paste = h("paste-processor", "resistance_mm2k_w") * 1e-6 / lid
    cooler = plate("plate-processor")
    t, k = h("processor-core", "lid_thickness_mm") / 1000, h("processor-core", "lid_w_mk")
    layers = (
        sum(h("processor-core", f) for f in ("hot_core_mm2k_w", "chip_mm2k_w", "joint_mm2k_w"))
        * 1e-6
        / area["processor-core"]
    )
    layers += lid_spreading(area["processor-core"], lid, t, k, paste + cooler) + t / (k * lid) + paste + cooler
    temperatures = {"processor-core": (T1 + T2) / 2 + h.watts("processor") * layers}
    for place, pad, inner in (
        ("graphics-chip", "paste-graphics", None),
        ("graphics-memory", "pads-memory", "package_k_w"),
        ("graphics-regulators", "pads-regulators", "package_k_w"),
    ):
        R = h(pad, "resistance_mm2k_w") * 1e-6 / area[place] + plate("plate-graphics") * (500e-6 / area[place]) ** 0.6
        R += h(place, inner) if inner else h(place, "chip_mm2k_w") * 1e-6 / area[place]
        temperatures[place] = (T2 + T3) / 2 + h.watts("graphics") * h(place, "power_share") * R
    for place, source in (("memory-place", "memory"), ("drive-place", "drive"), ("regulators-place", "regulators")):
        through = 2 * one_fan * rho_air(ROOM) + (Q_rear + Q_front) * rho_air(box)
        R = in_moving_air(h, place, through / RHO_0 / 3600 / 2)
        temperatures[place] = box + h.watts(source) * (R + 0.05)
    return temperatures


def test_the_demo_by_a_short_script_of_its_own():
    raw = json.loads(HERON.read_text())
    expected = by_hand(Hand(raw))
    found = predict(read_object(raw), ["both"], samples=0).workloads[0].places
    values = {place.address: place.temperature_c for place in found}
    for address, temperature in expected.items():
        assert values[address] == pytest.approx(temperature, abs=0.01), address
