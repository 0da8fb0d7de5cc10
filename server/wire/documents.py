"""Build documents on the wire: read by the core on their way in, as stored on their way out, one schema for both."""

from typing import Annotated, Any

from ninja import Field
from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, core_schema

from krill.document.build import ROOM_C, Build
from krill.document.reading import read_object
from wire.faults import ApiFault

MAX_PARTS = 300


class _BuildSchema:
    """Any value in Python, a build document in the API's schema."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.any_schema()

    def __get_pydantic_json_schema__(self, core: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return handler(Build.__pydantic_core_schema__)


class _Read(_BuildSchema):
    """Read by the core: its refusals name the address of each fault."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_plain_validator_function(read_object)


class _ReadToSolve(_BuildSchema):
    """Read by the core, and refused where it is too large to be solved while somebody waits."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_plain_validator_function(_to_solve)


def _to_solve(raw: Any) -> Build:
    build = read_object(raw)
    if len(build.parts) > MAX_PARTS:
        raise ApiFault(422, "parts", f"{len(build.parts)} parts", f"up to {MAX_PARTS}")
    return build


#: a document to be stored
GivenBuild = Annotated[Build, _Read()]
#: a document to be solved in the request
AskedBuild = Annotated[Build, _ReadToSolve()]
#: a document as it is stored: a JSON value that the core wrote, or one that it has not read yet
BuildJson = Annotated[dict[str, Any], _BuildSchema()]
#: air of the room that is asked about instead of the build's own, °C
RoomC = Annotated[float, Field(ge=ROOM_C[0], le=ROOM_C[1])]
AskedRoom = RoomC | None
