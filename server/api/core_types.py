"""Core types in the API: one validation, the core's; one schema, the core's.

`Core(T)` marks a field whose data is a core type as plain JSON. pydantic passes it through; the
OpenAPI document takes its schema from the core's own walk (see `openapi.py`).
"""

from typing import Annotated, Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, core_schema

MARK = "x-core-type"


class CoreType:
    """The marker pydantic sees."""

    def __init__(self, name: str) -> None:
        self.name = name

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.any_schema()

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {MARK: self.name}


CoreJobData = Annotated[Any, CoreType("Job")]
CoreFindings = Annotated[Any, CoreType("Findings")]
CoreMessage = Annotated[Any, CoreType("Message")]
CoreProblem = Annotated[Any, CoreType("Problem")]
CoreEcho = Annotated[Any, CoreType("Echo")]
CoreConflict = Annotated[Any, CoreType("Conflict")]
CoreAccount = Annotated[Any, CoreType("Account")]
CoreHistory = Annotated[Any, CoreType("History")]
CoreRetrofitTable = Annotated[Any, CoreType("RetrofitTable")]
CorePhChart = Annotated[Any, CoreType("PhChart")]
CoreJobPoints = Annotated[Any, CoreType("JobPoints")]
CoreSchoolChange = Annotated[Any, CoreType("SchoolChange")]
CoreOpinion = Annotated[Any, CoreType("Opinion")]
CoreCard = Annotated[Any, CoreType("Card")]
CoreSeen = Annotated[Any, CoreType("Seen")]
CoreLookInside = Annotated[Any, CoreType("LookInside")]
CoreDebrief = Annotated[Any, CoreType("Debrief")]
CorePlate = Annotated[Any, CoreType("Plate")]
