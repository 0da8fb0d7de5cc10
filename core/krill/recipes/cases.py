"""Housings that air flows through: walls that are touched, openings, fans of the case, coolers that breathe the box."""

from krill.recipes.pieces import Json, air_path, by_class, estimate, fan, opening, part

Size = tuple[float, float, float]
#: faces that a hand meets; what the others carry is told by the box's own walls
WALLS = ("left", "right", "top")


def walls(size_mm: Size, material: str, finish: str, thickness_mm: float) -> list[Json]:
    """Sides and top as panels between box and room, so that their touch temperature is known. Width, depth, height."""
    width, depth, height = size_mm
    faces = {"left": (depth, height), "right": (depth, height), "top": (width, depth)}
    return [_wall(face, *faces[face], material, finish, thickness_mm) for face in WALLS]


def _wall(face: str, wide: float, high: float, material: str, finish: str, thickness_mm: float) -> Json:
    name = "Top" if face == "top" else f"{face.capitalize()} side"
    sizes: Json = {"width_mm": estimate(wide, "3%"), "height_mm": estimate(high, "3%")}
    made: Json = {"material": material, "finish": finish, "thickness_mm": estimate(thickness_mm, "15%")}
    stands: Json = {"face": face, "outside": "outside", "inside": "box", "touched_for": "1_min"}
    return part("panel", f"wall-{face}", name, **sizes, **made, **stands)


def cooler_in_box(part_id: str, name: str, class_: str, fan_class: str, zone: str = "box") -> tuple[list[Json], Json]:
    """A cooler with its fan that draws the box's air and blows into it: its parts, and its path."""
    fan_id = part_id.replace("cooler", "fan", 1)
    parts = [part("cooler", part_id, name, class_), fan(fan_id, f"Fan of {name}", fan_class)]
    return parts, air_path(f"air-{part_id}", f"Through {name}", zone, zone, fan_id, part_id)


def case_fan(
    fan_id: str, class_: str, face: str, direction: str, area_cm2: float, zone: str = "box"
) -> tuple[list[Json], Json]:
    """A fan behind a guard in a face: its parts, and its path."""
    says = f"{'In' if direction == 'in' else 'Out'} by the {face} fan"
    guard = opening(f"guard-{fan_id}", f"Guard of the {face} fan", "opening_guard", face, estimate(area_cm2))
    parts = [fan(fan_id, f"{face.capitalize()} fan", class_, face=face, direction=direction), guard]
    inwards = direction == "in"
    order = (guard["id"], fan_id) if inwards else (fan_id, guard["id"])
    ends = ("outside", zone) if inwards else (zone, "outside")
    return parts, air_path(f"air-{fan_id}", says, *ends, *order)


def vents(part_id: str, name: str, class_: str, face: str, area_cm2: float, zone: str = "box") -> tuple[Json, Json]:
    """An opening that air enters or leaves by as the pressures have it: the part, and its path into the box."""
    path = air_path(f"air-{part_id}", name, "outside", zone, part_id)
    return opening(part_id, name, class_, face, estimate(area_cm2, "20%")), path


def again(to_path: str, from_path: str, share: float, half: float) -> Json:
    """Exhaust that an intake draws in again."""
    return {
        "id": f"again-{to_path}",
        "from_path": from_path,
        "to_path": to_path,
        "recirculated_share": by_class(share, half),
    }
