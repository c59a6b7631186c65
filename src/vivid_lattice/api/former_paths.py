"""Former paths of the API: each is redirected to the present one, for one version, so that existing scripts keep working."""

from __future__ import annotations

from typing import Final

from fastapi import APIRouter, Request
from fastapi.responses import RedirectResponse

from vivid_lattice.api.trips import delete_trip

#: Former to present path. A job's id, and whatever else is in braces, is carried over.
PATHS: Final = {
    "/api/entry": "/api/parse/circuit",
    "/api/survey/way": "/api/parse/way",
    "/api/lengths": "/api/max-lengths",
    "/api/upgrade": "/api/larger-supply",
    "/api/balance": "/api/balance-phases",
    "/api/whatif": "/api/what-if",
    "/api/whatif/ranges": "/api/what-if/ranges",
    "/api/whatif/take": "/api/what-if/apply",
    "/api/boards/one-more": "/api/boards/add-circuit",
    "/api/boards/swap": "/api/boards/swap-device",
    "/api/boards/move": "/api/boards/move-device",
    "/api/boards/number": "/api/boards/renumber",
    "/api/boards/isolate": "/api/boards/isolation-steps",
    "/api/boards/layout": "/api/boards/lay-out",
    "/api/survey/things": "/api/survey/observation-kinds",
    "/api/survey/read": "/api/survey/evaluate",
    "/api/survey/renew": "/api/survey/replace-board",
    "/api/matrix": "/api/selectivity",
    "/api/relay/run": "/api/relay/simulate",
    "/api/jobs/{job_id}/wired": "/api/jobs/{job_id}/wiring-progress",
    "/api/jobs/{job_id}/tables/{table}": "/api/jobs/{job_id}/imports/{table}",
    "/api/tables/read": "/api/imports/table",
    "/api/backup/look": "/api/backup/inspect",
}

router = APIRouter()


def _add(former: str, present: str) -> None:
    async def redirect(request: Request) -> RedirectResponse:
        query = f"?{request.url.query}" if request.url.query else ""
        # 308: method and body are sent again as they are.
        return RedirectResponse(present.format(**request.path_params) + query, status_code=308)

    router.add_api_route(former, redirect, methods=["GET", "POST"], include_in_schema=False)


for _former, _present in PATHS.items():
    _add(_former, _present)
# A redirect keeps the method, and deleting has its own now.
router.add_api_route(
    "/api/jobs/{job_id}/trips/{trip_id}/strike", delete_trip, methods=["POST"], status_code=204, include_in_schema=False
)
