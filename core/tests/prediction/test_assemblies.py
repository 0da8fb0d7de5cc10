"""Everything that is put into a build in one step solves there, alone and beside a machine that is there already."""

import copy

import pytest

from krill.document.reading import read_object, write_object
from krill.prediction.predict import predict
from krill.recipes.air_box import air_box
from krill.recipes.assemblies import ASSEMBLIES
from krill.recipes.water_loop import water_loop


def put(raw, assembly):
    """As the screen does it, into a build in which none of its ids is taken."""
    raw = copy.deepcopy(raw)
    for key in ("parts", "zones", "air_paths", "loops", "routes"):
        raw[key] = [*raw.get(key, []), *copy.deepcopy(getattr(assembly, key))]
    if assembly.into_loop:
        raw["loops"][0]["elements"][-1:-1] = assembly.into_loop
    for workload in raw["workloads"]:
        workload["movers"] = workload.get("movers", {}) | assembly.movers
        workload["watts"] = workload["watts"] | assembly.watts
    return read_object(raw)


def _free_of_clashes(raw, assembly):
    """The build with another name before every id that the assembly uses, too."""
    taken = {
        item["id"] for key in ("parts", "zones", "air_paths", "loops", "routes") for item in getattr(assembly, key)
    }
    taken |= {place["id"] for part in assembly.parts for place in part.get("places", [])}
    taken |= {hop["id"] for route in assembly.routes for hop in route["hops"]}
    kept = {"kind", "temperature_kind", "power_kind", "class", "material", "name", "from", "fluid", "finish", "face"}

    def renamed(value, key=""):
        if isinstance(value, str):
            return f"own-{value}" if value in taken and key not in kept else value
        if isinstance(value, list):
            return [renamed(item, key) for item in value]
        if isinstance(value, dict):
            return {
                (f"own-{k}" if k in taken and key in ("watts", "movers") else k): renamed(v, k)
                for k, v in value.items()
            }
        return value

    return renamed(raw)


@pytest.mark.parametrize("assembly", ASSEMBLIES, ids=lambda item: item.id)
@pytest.mark.parametrize("machine", ["loop", "air"])
def test_an_assembly_solves_beside_a_machine(assembly, machine):
    in_loop = machine == "loop" or assembly.into_loop
    made = water_loop(65, 75, 10, 24, "loop") if in_loop else air_box(65, 75, 10, 24, "air")
    raw = write_object(made)
    build = put(_free_of_clashes(raw, assembly), assembly)
    for workload in predict(build, samples=0).workloads:
        assert workload.no_state is None
        assert workload.balance_w < 1e-6
        assert all(place.temperature_c < 130 for place in workload.places), workload.workload
    flows = {path.address: path.airflow_m3_h for path in predict(build, ["both"], samples=0).workloads[0].paths}
    for path in assembly.air_paths:
        if any(build.part(item).kind == "fan" for item in assembly.movers if item in str(path["elements"])):
            assert flows[path["id"]] > 1.0, path["id"]


@pytest.mark.parametrize("assembly", ASSEMBLIES, ids=lambda item: item.id)
def test_an_assembly_names_nothing_but_itself_and_what_every_build_has(assembly):
    own = {item["id"] for key in ("parts", "zones") for item in getattr(assembly, key)}
    for path in assembly.air_paths:
        assert {path["from_zone"], path["to_zone"]} <= own | {"box", "outside"}
    for route in assembly.routes:
        assert all(hop.get("part", hop.get("zone")) in own | {"box"} for hop in route["hops"])
    assert set(assembly.movers) <= own
    assert set(assembly.watts) <= own
    assert set(assembly.into_loop) <= own


def test_a_second_radiator_cools_the_loop():
    raw = write_object(water_loop(125, 220, 20, 24, "loop"))
    radiator = next(item for item in ASSEMBLIES if item.id == "outside_radiator")
    before = predict(read_object(raw), ["both"], samples=0).workloads[0]
    after = predict(put(raw, radiator), ["both"], samples=0).workloads[0]
    assert after.loops[0].highest_c < before.loops[0].highest_c - 8
