"""Types the plans of two demo houses, and writes their documents: the mill, and the keeper's house under the North American rules.

Usage: python tools/plan_demos.py, after the plan or one of the two demos was changed. The houses are invented.
"""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from vivid_lattice.core.document.job import Job
from vivid_lattice.core.document.plan import Plan
from vivid_lattice.core.document.price_list import with_price
from vivid_lattice.core.document.purchase import Purchase
from vivid_lattice.core.document.quote import ExtraWork, QuoteTerms
from vivid_lattice.core.installation.installation import Installation
from vivid_lattice.core.job_file import to_text
from vivid_lattice.core.material.material import material
from vivid_lattice.core.plan.enter_plan import enter_plan_line
from vivid_lattice.core.plan.planned_runs import with_planned_runs
from vivid_lattice.core.rules import rule_set
from vivid_lattice.demo import demo_job

FOLDER = Path(__file__).parents[1] / "src" / "vivid_lattice" / "demo"
LINES: Mapping[str, tuple[str, ...]] = {
    "millrace": (
        "mill floor 8.4 x 7.2 h 2.8 masonry door front 1.1 at 3.6 window front 1.4 at 0.9 window left 1.2 at 3",
        "kitchen 6.2 x 4.8 h 2.6 masonry right of mill floor door left 0.9 at 3.2 window front 1.6 at 2.2",
        "pantry 2.6 x 2.4 h 2.6 stud behind kitchen door front 0.8 at 0.4",
        "wheelhouse 3.2 x 5 h 2.8 external left of mill floor door right 0.9 at 2.6",
        "stone floor 8.4 x 5 h 2.5 masonry above mill floor door back 0.9 at 1 window front 1.2 at 3",
        "landing 8.4 x 2.2 h 2.5 stud behind stone floor open above door front 0.9 at 1",
        "loft bath 4.6 x 5 h 2.3 insulated stud above stone floor door back 0.8 at 0.4",
        "studio 6.5 x 5.2 h 3 external right of kitchen offset 5.5 door front 1 at 2.4 window front 1.6 at 4",
        "kiln room 3 x 3.4 h 3 masonry right of studio door left 0.9 at 1",
        "ground floor insulation none", "first floor above floor", "second floor above loft insulation 270",
        "board mill floor left at 1.4", "board studio left at 0.6",
        "worktop kitchen back at 0 width 3.4", "worktop kitchen right at 1 width 3.8", "sink kitchen back at 1.2",
        "cooktop kitchen right at 2.6", "bath loft bath left at 2.6", "basin loft bath front at 0.6",
        "6 double sockets kitchen worktop", "3 double sockets kitchen front", "10 double sockets mill floor", "shower loft bath right at 2.4 h 2.1", "immersion heater stone floor right at 4.4",
        "6 downlights kitchen", "2 way 3 lights mill floor", "2 lights stone floor", "2 lights loft bath",
        "smoke alarm landing", "heat alarm kitchen", "smoke alarm mill floor", "pump wheelhouse left at 2.4 h 1.2",
        "2 sockets pantry back", "motor studio right at 2.8", "motor studio right at 4.2",
        "4 lights studio", "light kiln room",
        "ground floor joists along depth 225 centres 400 span 4.8", "first floor joists along depth 200 centres 400 span 5",
        "second floor joists across depth 150 centres 400 span 4.6", "mill floor walls masonry 450", "kitchen walls masonry 300",
        "pantry walls stud 75 at 400", "wheelhouse walls external 450", "stone floor walls masonry 450",
        "landing walls stud 75 at 400", "loft bath walls insulated stud 100 at 400", "studio walls external 300",
        "kiln room walls masonry 215",
    ),
    "keepers-house": (
        "kitchen 14ft x 11ft h 8ft door right 3ft at 1ft window front 4ft at 5ft",
        "living room 18ft x 14ft h 8ft right of kitchen door left 3ft at 1ft window front 6ft at 6ft",
        "laundry 7ft x 8ft h 8ft behind kitchen door front 2.5ft at 1ft",
        "bedrooms 18ft x 12ft h 8ft above living room door left 2.5ft at 4ft window front 4ft at 6ft",
        "lamp room 10ft x 10ft h 8ft right of living room offset 0 door left 3ft at 2ft",
        "second floor above loft insulation 300", "cables apart", "board laundry left at 4ft", "board lamp room back at 2ft",
        "worktop kitchen left at 0 width 11ft", "sink kitchen left at 4ft width 2.5ft", "worktop kitchen right at 4.5ft width 6.5ft",
        "4 receptacles kitchen worktop left", "2 receptacles kitchen worktop right", "range kitchen back at 2.5ft h 0.4", "fcu kitchen left at 7ft h 0.5",
        "6 receptacles living room", "receptacle laundry back at 3ft", "heater laundry right at 6ft", "2 way 2 lights living room", "6 receptacles bedrooms", "2 lights bedrooms",
        "light lamp room", "4 receptacles lamp room", "motor lamp room right at 5ft",
    ),
}  # fmt: skip


#: Points that no circuit is found for, by their room.
CIRCUITS: Mapping[str, Mapping[str, str]] = {"keepers-house": {"bed": "c10"}}


#: Invented prices of the mill, by how an article begins; the first that fits. Of cable by its length, of the rest each.
PRICES: tuple[tuple[str, float, int], ...] = (
    ("cable:flat-twin-pvc:2x1:100", 48.0, 1), ("cable:flat-twin-pvc:2x1.5:50", 34.0, 1), ("cable:flat-twin-pvc:2x2.5:100", 79.0, 1),
    ("cable:flat-twin-pvc:2x2.5:50", 42.5, 1), ("cable:flat-twin-pvc:2x4:25", 38.0, 1), ("cable:flat-twin-pvc:3x1:25", 24.0, 1),
    ("cable:flat-twin-pvc:3x1.5:25", 31.0, 1), ("cable:flat-twin-pvc:2x6", 2.85, 1), ("cable:flat-twin-pvc:2x10", 4.9, 1),
    ("cable:swa-xlpe:2x16", 9.4, 1), ("tails:", 3.6, 1), ("fixing:clip", 2.4, 100), ("fixing:steel", 0.85, 1), ("box:connector", 9.5, 50),
    ("box:junction", 1.6, 1), ("box:", 0.75, 1), ("accessory:sleeve", 3.2, 100), ("accessory:gland", 0.9, 1), ("accessory:smoke", 38.0, 1),
    ("accessory:socket", 3.4, 1), ("accessory:", 4.2, 1), ("device:", 24.5, 1), ("board:blanks", 0.6, 1), ("board:spd", 62.0, 1),
    ("board:main", 18.0, 1), ("board:", 74.0, 1), ("link:conductor", 2.2, 1), ("link:", 0.4, 1), ("label:", 1.5, 1), ("bonding:", 2.9, 1),
)  # fmt: skip
TERMS = QuoteTerms(
    currency="£", rate=48.0, tax_pct=20.0, markup_pct=12.0, overhead_pct=8.0, options=("designed", "shared-rcd"),
    extra=(ExtraWork(name="Setting up and clearing away", hours=6.0),),
)  # fmt: skip


def _priced(job: Job) -> Job:
    """The job with invented prices of everything that it needs, and the terms of a quote."""
    for line in material(Installation.of(job, rule_set(job.job.rules))).items:
        found = next(((each, pack) for begins, each, pack in PRICES if line.article.startswith(begins)), None)
        if found is not None:
            job = with_price(job, line.article, *found)
    return job.model_copy(update={"quote": TERMS})


def _decided(job: Job, circuits: Mapping[str, str]) -> Job:
    points = tuple(
        point if point.circuit else point.model_copy(update={"circuit": circuits.get(point.room)})
        for point in job.plan.points
    )
    return job.model_copy(update={"plan": job.plan.model_copy(update={"points": points})})


def main() -> None:
    """Writes both documents, and tells what has no circuit."""
    for name, lines in LINES.items():
        job = demo_job(name).model_copy(update={"plan": Plan(), "purchase": Purchase()})
        for line in lines:
            job = enter_plan_line(job, line)
        job = with_planned_runs(_decided(job, CIRCUITS.get(name, {})), rule_set(job.job.rules))
        if name == "millrace":
            job = _priced(job)
        (FOLDER / f"{name}.json").write_text(to_text(job), "utf-8")
        open_points = [point.name for point in job.plan.points if point.circuit is None]
        print(f"{name}: {len(job.plan.points)} points; without a circuit: {', '.join(open_points) or 'none'}")


if __name__ == "__main__":
    main()
