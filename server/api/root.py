"""The API and its routes."""

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from api import problems
from api.openapi import with_core_types
from api.permissions import Guard
from api.routes_accounts import router as accounts
from api.routes_cards import router as cards
from api.routes_cylinders import router as cylinders
from api.routes_day import router as day
from api.routes_device import router as device
from api.routes_health import router as health
from api.routes_instruments import gateway_router, log_router
from api.routes_instruments import router as instruments
from api.routes_jobs import router as jobs
from api.routes_practice import router as practice
from api.routes_refrigerants import router as refrigerants
from api.routes_self import router as self_
from api.routes_shop import router as shop
from api.routes_systems import router as systems
from api.routes_tasks import router as tasks
from api.strict_json import StrictParser

FILES = {
    "/api/cylinders/export.csv": ("text/csv",),
    "/api/trail.csv": ("text/csv",),
    "/api/jobs/{code}/log": ("text/csv",),
    "/api/jobs/{code}/record": ("text/html", "application/pdf"),
    "/api/practice/file": ("application/json",),
    "/api/practice/schema": ("application/schema+json",),
    "/api/jobs/{code}/label": ("text/html", "application/pdf"),
}


class Api(NinjaAPI):
    """NinjaAPI whose OpenAPI document holds the core's types and the errors of every operation."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        document = super().get_openapi_schema(**options)
        for operations in document["paths"].values():
            for operation in operations.values():
                for status in (400, 401, 403, 404, 408, 413, 415, 422, 429, 503):
                    operation["responses"].setdefault(
                        status,
                        {
                            "description": "refused",
                            "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/ProblemBody"}}},
                        },
                    )
        for path, kinds in FILES.items():
            document["paths"][path]["get"]["responses"][200]["content"] = {
                kind: {"schema": {"type": "object" if kind.endswith("json") else "string"}} for kind in kinds
            }
        document["components"]["schemas"]["ProblemBody"] = problems.ProblemBody.model_json_schema()
        merged = with_core_types(dict(document))
        document.clear()
        document.update(merged)
        return document


api = Api(title="Yoshi", version="1", auth=Guard(), parser=StrictParser(), docs_url=None, openapi_url=None, urls_namespace="api")
problems.register(api)
api.add_router("", accounts)
api.add_router("", shop)
api.add_router("", self_)
api.add_router("/health", health)
api.add_router("/jobs", jobs)
api.add_router("/refrigerants", refrigerants)
api.add_router("/cylinders", cylinders)
api.add_router("/cards", cards)
api.add_router("/systems", systems)
api.add_router("/instruments", instruments)
api.add_router("/gateway", gateway_router)
api.add_router("/jobs", log_router)
api.add_router("/day", day)
api.add_router("/device", device)
api.add_router("/tasks", tasks)
api.add_router("/practice", practice)
