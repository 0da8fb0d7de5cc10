"""The demo build solved once more by a short script of its own: scipy.optimize.root on plain equations.

Same correlations and class tables, other code: one coolant flow, three air flows, a handful of temperatures. Equal to
0.01 K. Nothing of krill's networks is used.
"""

import json
from pathlib import Path

import numpy as np
import pytest
from fluids.friction import Churchill_1977
from ht.hx import effectiveness_from_NTU
from machines import radiator_row
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq, root

from krill.catalogue.classes import classes
from krill.document.reading import read_object
from krill.materials.fluids import coolant
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


def radiator(part, air_m, coolant_m, cp, rho):
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
    v = air_m / rho / (part["sections"] * face)
    x, grid, y = np.log(v), np.log(row.face_velocity), np.log(UA)
    i = int(np.clip(np.searchsorted(grid, x) - 1, 0, 2))
    ua = part["sections"] * np.exp(y[i] + (y[i + 1] - y[i]) / (grid[i + 1] - grid[i]) * (x - grid[i]))
    least, most = sorted((air_m * CP_AIR, coolant_m * cp))
    return least * effectiveness_from_NTU(ua / least, least / most, subtype="crossflow")


def radiator_air_drop(part, Q):
    row, A = (
        radiator_row(part["section_mm"], part["thickness_mm"]),
        part["sections"] * 0.96 * (part["section_mm"] / 1e3) ** 2,
    )
    a, b = np.linalg.lstsq(np.stack([row.face_velocity, row.face_velocity**2], 1), row.pressure_pa, rcond=None)[0]
    return a * Q / A + b * (Q / A) ** 2


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
    scale = rho / 994.0
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
        total += scale * four * (Q / (4 * LITRE)) ** (np.log(four / one) / np.log(4))
    for part in ("radiator-bottom", "radiator-rear"):
        p = h.items[part]
        four = 1000 * radiator_row(p["section_mm"], p["thickness_mm"]).coolant_kpa * (0.72 + 0.14 * p["sections"])
        total += scale * four * (Q / (4 * LITRE)) ** 1.8
    points, n = np.array(classes()["pump_strong"].curve, dtype=float), h.duty("pump")
    return scale * n**2 * float(PchipInterpolator(points[:, 0] * LITRE, points[:, 1] * 1000)(Q / n)) - total


def solve(h):
    share = {p: h(p, "power_share") for p in ("graphics-chip", "graphics-memory", "graphics-regulators")}
    fans = ("fan-bottom-left", "fan-bottom-right", "fan-rear")
    fan_w = {f: h(f, "power_w") * h.duty(f) ** 3 for f in fans}
    pump_w = h("pump", "power_w") * h.duty("pump") ** 2.5
    into_coolant = h("pump", "coolant_share") * pump_w
    sources = sum(h.watts(s) for s in ("processor", "graphics", "memory", "drive", "regulators"))
    loss = (sources + pump_w + sum(fan_w.values())) * (1 / h("supply", "efficiency") - 1)
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
        drop += thin * (2 * v + 2 * v**2)
        rho_warm = rho_air(warm)
        drop += rho_warm / RHO_0 * radiator_air_drop(bottom, m_bottom / rho_warm)
        column = (
            9.80665 * (rho_box - rho_room) * h.raw["housing"]["inner_size_mm"][2] / 2000
        )  # from the floor to the middle
        bottom_balance = fan_head(h, "fan-bottom-left", one_fan, rho_room) - drop - pressure - column
        m_rear = Q_rear * rho_box
        G_bottom = radiator(bottom, m_bottom, m, cp, rho_warm)
        G_rear = radiator(rear, m_rear, m, cp, rho_box)
        q_bottom, q_rear = G_bottom * (T3 - warm), G_rear * (T4 - box)
        after = box + q_rear / (m_rear * CP_AIR)  # air behind the rear radiator
        rho_after = rho_air(after)
        hotter = after + fan_w["fan-rear"] / (m_rear * CP_AIR)
        rho_hotter = rho_air(hotter)
        drop = rho_box / RHO_0 * radiator_air_drop(rear, Q_rear)
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
    """Conductance from still to 1.5 m/s with velocity^0.6; the box is as wide as a cube of its volume."""
    known = classes()[h.items[place]["class"]].extra
    velocity = through / (np.prod(h.raw["housing"]["inner_size_mm"]) * 1e-9) ** (2 / 3)
    still, moving = 1 / known["still_k_w"], 1 / known["moving_k_w"]
    return 1 / (still + (moving - still) * (velocity / 1.5) ** 0.6)


def by_hand(h):
    flow, one_fan, Q_rear, Q_front, _, T1, T2, T3, _, _, box, _ = solve(h)

    def plate(part):
        one, four = h(part, "resistance_1_k_w"), h(part, "resistance_4_k_w")
        return one * flow ** (np.log(four / one) / np.log(4))

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
        R = in_moving_air(h, place, (2 * one_fan + Q_rear + Q_front) / 3600 / 2)
        temperatures[place] = box + h.watts(source) * (R + 0.05)
    return temperatures


def test_the_demo_by_a_short_script_of_its_own():
    raw = json.loads(HERON.read_text())
    expected = by_hand(Hand(raw))
    found = predict(read_object(raw), ["both"], samples=0).workloads[0].places
    values = {place.address: place.temperature_c for place in found}
    for address, temperature in expected.items():
        assert values[address] == pytest.approx(temperature, abs=0.01), address
