"""Templates and adapters, written here and read back by other libraries: millimetres, closed bodies, volumes."""

import io
import math
import re
from xml.etree import ElementTree

import ezdxf
import numpy as np
import pypdf
import pytest
import trimesh

from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.making.adapter import Adapter, mesh_of, says_of, written
from krill.making.cut_outs import PROCESSES, SAWS_MM, cut_sheet, drawn, passes, saw_for
from krill.making.dxf import dxf_of
from krill.making.pdf import PAPERS, pdf_of, tiles
from krill.making.svg import svg_of
from krill.recipes.water_loop import water_loop

MM = 72 / 25.4


def build_with_a_fan(**outline):
    data = write_object(water_loop(125, 220, 30, 24, "to cut"))
    for part in data["parts"]:
        part.pop("face", None)
    data["housing"]["inner_size_mm"] = [320, 190, 180]
    data["parts"].append(
        {"id": "cut-fan", "kind": "fan", "class": "fan_120x25", "name": "Side fan", "face": "front"} | outline
    )
    return read_object(data)


def test_a_fan_is_cut_as_its_pattern_says():
    """120 mm: opening 116, four holes of 4.3 at 105 mm, screw circle 148.5 (value from memory)."""
    sheet = cut_sheet(build_with_a_fan(), "front", "by_hand")
    opening, *holes = sheet.circles
    assert (opening.x, opening.y, opening.diameter) == (160, 90, 116)
    assert {hole.diameter for hole in holes} == {4.3}
    assert all(math.hypot(hole.x - 160, hole.y - 90) * 2 == pytest.approx(148.5, abs=0.1) for hole in holes)
    assert (sheet.width, sheet.height) == (320, 180)


def test_a_placed_fan_is_cut_where_it_stands_and_mirrored_on_the_far_side():
    at = {"outline": {"position_mm": [70, 5, 100]}}
    assert (cut_sheet(build_with_a_fan(**at), "front", "by_hand").circles[0].x) == 70
    back = cut_sheet(build_with_a_fan(**at, face="back"), "back", "by_hand")
    assert back.circles[0].x == 250
    assert any("Mirrored" in text for text in back.says)


def test_a_face_without_a_fan_is_refused_with_those_that_have_one():
    with pytest.raises(DocumentRefused, match="front"):
        cut_sheet(build_with_a_fan(), "top", "by_hand")


@pytest.mark.parametrize(
    ("process", "opening", "hole"),
    [("by_hand", 116, 4.3), ("hole_saw", 114.7, 4.3), ("laser", 115.8, 4.1), ("print", 116.3, 4.6)],
)
def test_every_way_of_making_has_its_allowance(process, opening, hole):
    assert drawn(116, process, large=True) == pytest.approx(opening)
    assert drawn(4.3, process, large=False) == pytest.approx(hole)


@pytest.mark.parametrize(("wanted", "saw"), [(116, 114), (114.7, 114), (114.69, 111), (135, 133), (38, 35), (10, 19)])
def test_the_largest_saw_that_cuts_no_wider(wanted, saw):
    assert saw_for(wanted) == saw


def test_saws_are_those_of_the_shops():
    """Common practice; 168, 177 and 210 are rare and left out."""
    shops = "19 22 25 29 32 35 38 41 44 48 51 57 60 64 68 76 79 83 89 92 95 102 105 108 111 114 121 127 133 140 152"
    assert list(SAWS_MM) == [int(size) for size in shops.split()]


def test_a_radiator_without_fans_is_screwed_section_by_section():
    """Two sections of 120: eight holes at 105 mm, the sections 120 apart, no opening of its own."""
    data = write_object(build_with_a_fan())
    data["parts"] = [part for part in data["parts"] if part["id"] != "cut-fan"]
    data["parts"].append(
        {"id": "r", "kind": "radiator", "section_mm": 120, "sections": 2, "thickness_mm": 30, "face": "front"}
    )
    sheet = cut_sheet(read_object(data), "front", "by_hand")
    assert {hole.diameter for hole in sheet.circles} == {4.3}
    wanted = {(160 + middle + x, 90 + y) for middle in (-60, 60) for x in (-52.5, 52.5) for y in (-52.5, 52.5)}
    assert {(hole.x, hole.y) for hole in sheet.circles} == wanted


def test_two_fans_without_a_place_stand_side_by_side():
    data = write_object(build_with_a_fan())
    data["parts"].append({"id": "second", "kind": "fan", "class": "fan_80x25", "face": "front"})
    sheet = cut_sheet(read_object(data), "front", "by_hand")
    openings = [(c.x, c.diameter) for c in sheet.circles if c.diameter > 50]
    assert openings == [(160 - 100 + 60, 116), (160 + 100 - 40, 77)]


def test_hand_template_takes_m3_and_not_the_coarse_screw():
    """Common practice: 4.3 holes take M3 with half a millimetre of position, the coarse one needs 5.0 or slots."""
    assert passes(4.3, 3.0, "by_hand")
    assert not passes(4.3, 3.5, "by_hand")
    assert passes(5.0, 3.5, "by_hand")
    assert passes(4.3, 3.5, "laser")
    assert passes(4.0 + 0.6 + 0.16, 4.0, "print")
    assert not passes(4.0 + 0.6 + 0.14, 4.0, "print")
    assert passes(4.3, 3.0, "hole_saw")
    assert not passes(4.3, 3.5, "hole_saw")
    says = cut_sheet(build_with_a_fan(), "front", "by_hand").says
    assert any(text.startswith("6-32 screws need holes of 4.7") for text in says)
    assert not any(text.startswith("M3") for text in says)


@pytest.mark.parametrize("process", PROCESSES)
def test_every_template_says_what_must_be_measured_and_warns(process):
    says = " ".join(cut_sheet(build_with_a_fan(), "front", process).says)
    assert "scale bar" in says
    assert "Side fan (holes by class)" in says
    assert "eye and hearing protection" in says


def test_the_drawing_exchange_file_is_read_back_to_the_micron():
    sheet = cut_sheet(build_with_a_fan(), "front", "laser")
    read = ezdxf.read(io.StringIO(dxf_of(sheet)))
    assert read.dxfversion == "AC1009"
    found = sorted((c.dxf.center.x, c.dxf.center.y, 2 * c.dxf.radius) for c in read.modelspace().query("CIRCLE"))
    wanted = sorted((c.x, c.y, c.diameter) for c in sheet.circles)
    assert np.allclose(found, wanted, atol=1e-5)
    assert {c.dxf.layer for c in read.modelspace().query("CIRCLE")} == {"CUT"}
    assert len(read.modelspace().query("LINE")) == len(sheet.lines)


def test_the_vector_drawing_is_in_millimetres():
    sheet = cut_sheet(build_with_a_fan(), "front", "by_hand")
    root = ElementTree.fromstring(svg_of(sheet))
    width, height = (float(root.get(side).removesuffix("mm")) for side in ("width", "height"))
    assert [float(v) for v in root.get("viewBox").split()] == [0, 0, width, height]
    space = {"s": "http://www.w3.org/2000/svg"}
    circles = root.findall(".//s:circle", space)
    assert sorted(2 * float(c.get("r")) for c in circles) == pytest.approx(sorted(c.diameter for c in sheet.circles))
    bar = root.find(".//s:path[@id='scale-bar']", space)
    start, end = re.fullmatch(r"M([\d.]+) [\d.]+H([\d.]+)", bar.get("d")).groups()
    assert float(end) - float(start) == 100.0


def _lines(page) -> list[tuple[float, float, float, float]]:
    """Straight strokes of a page, mm."""
    text = page.get_contents().get_data().decode("latin-1")
    number = r"(-?[\d.]+)"
    found = re.findall(rf"{number} {number} m {number} {number} l S", text)
    return [tuple(float(v) / MM for v in line) for line in found]


@pytest.mark.parametrize("paper", PAPERS)
def test_the_scale_bar_of_every_printed_page_is_a_hundred_millimetres(paper):
    read = pypdf.PdfReader(io.BytesIO(pdf_of(cut_sheet(build_with_a_fan(), "front", "by_hand"), paper)))
    wide, high = PAPERS[paper]
    for page in read.pages[:-1]:
        assert float(page.mediabox.width) / MM == pytest.approx(wide, abs=0.1)
        assert float(page.mediabox.height) / MM == pytest.approx(high, abs=0.1)
        bars = [
            line for line in _lines(page) if abs(line[1] - line[3]) < 0.01 and abs(abs(line[2] - line[0]) - 100) < 0.1
        ]
        assert bars
        assert "measure it before you cut" in page.extract_text()


def test_tiles_cover_the_drawing_and_overlap():
    sheet = cut_sheet(build_with_a_fan(), "front", "by_hand")
    assert tiles(sheet, "a4") == (2, 1)
    assert tiles(sheet, "a3") == (2, 1)  # 320 mm against 277 that are shown
    read = pypdf.PdfReader(io.BytesIO(pdf_of(sheet, "a4")))
    assert len(read.pages) == 3  # and one of what must be said


def test_a_template_of_more_pages_than_anybody_joins_is_refused():
    data = write_object(build_with_a_fan())
    data["housing"]["inner_size_mm"] = [3000, 190, 1500]
    sheet = cut_sheet(read_object(data), "front", "by_hand")
    across, down = tiles(sheet, "a4")
    assert across * down > 60
    with pytest.raises(DocumentRefused, match="SVG or DXF"):
        pdf_of(sheet, "a4")
    assert svg_of(sheet)


ADAPTERS = [
    Adapter("round", 92, "round", 120, 40),
    Adapter("round", 92, "square", 120, 40, 10, 0, 2),
    Adapter("square", 60, "square", 40, 80, 0, 25, 1.2),
    Adapter("round", 120, "round", 120, 30, 0, 0, 3),
]


@pytest.mark.parametrize("adapter", ADAPTERS)
def test_adapters_are_closed_bodies_of_the_volume_that_they_say(adapter):
    corners, triangles = mesh_of(adapter)
    mesh = trimesh.Trimesh(corners, triangles, process=False)
    assert mesh.is_watertight
    assert mesh.is_winding_consistent
    assert mesh.volume / 1000 == pytest.approx(says_of(adapter).plastic_cm3)
    assert mesh.volume > 0


def test_a_straight_round_tube_has_the_volume_of_the_closed_form():
    exact = math.pi * (52**2 - 50**2) * 50 / 1000
    assert says_of(Adapter("round", 100, "round", 100, 50, wall_mm=2)).plastic_cm3 == pytest.approx(exact, rel=1e-3)


def test_a_square_cone_has_the_volume_of_the_closed_form():
    """Frustum: h (A + B + sqrt(AB)) / 3, outside less inside."""
    adapter = Adapter("square", 40, "square", 80, 60, wall_mm=2)
    frustum = [60 * (a**2 + b**2 + a * b) / 3 for a, b in ((44, 84), (40, 80))]
    assert says_of(adapter).plastic_cm3 == pytest.approx((frustum[0] - frustum[1]) / 1000, rel=2e-3)


@pytest.mark.parametrize("form", ["stl", "3mf"])
def test_files_are_read_back_as_the_same_closed_body(form):
    adapter = ADAPTERS[1]
    read = trimesh.load(io.BytesIO(written(adapter, form)), file_type=form, force="mesh")
    assert read.is_watertight
    assert read.volume / 1000 == pytest.approx(says_of(adapter).plastic_cm3, rel=1e-4)
    assert np.allclose(sorted(read.extents), sorted(says_of(adapter).size_mm), atol=1e-3)


def test_inner_openings_are_those_that_were_asked():
    corners, _ = mesh_of(ADAPTERS[1])
    bottom, top = corners[corners[:, 2] == 0], corners[corners[:, 2] == 40]
    assert 2 * np.hypot(*bottom[:, :2].T).min() == pytest.approx(92)
    assert 2 * np.abs(top[:, :2] - [10, 0]).max(axis=1).min() == pytest.approx(120)


def test_an_adapter_that_leans_beyond_45_degrees_needs_supports():
    assert not says_of(Adapter("round", 60, "round", 100, 20.1)).supports
    assert says_of(Adapter("round", 60, "round", 100, 19.9)).supports


@pytest.mark.parametrize(
    "wrong", [{"first_mm": 0}, {"second_mm": 401}, {"length_mm": 4}, {"wall_mm": 0.7}, {"off_x_mm": float("nan")}]
)
def test_what_cannot_be_made_is_refused_where_it_stands(wrong):
    given = {"first": "round", "first_mm": 60, "second": "round", "second_mm": 80, "length_mm": 40} | wrong
    with pytest.raises(DocumentRefused, match=next(iter(wrong))):
        mesh_of(Adapter(**given))
