"""A further standard needs data and nothing else: a tiny invented one, put beside the packaged ones, assesses a job.

All its figures are invented, chosen so that the sums can be done in the head.
"""

from __future__ import annotations

import shutil
import tempfile
import unittest
from importlib.resources import as_file
from pathlib import Path
from unittest.mock import patch

from tests.builders import circuit, finding, flat, job, laid, mcb, step_result, supply, two_boards
from vivid_lattice.core import rules
from vivid_lattice.core.document.job import Cable, JobInfo
from vivid_lattice.core.rules import data_folder, rule_data, standard_file

SCHOOL = """
[standard]
id = "isle"
title = "Isle of Example"
edition = "first and last"
systems = ["TN-S", "TT"]
nominal_v = 100
default_cable = "rope"
default_method = "SKY"
default_buried_cable = "rope"
tails_cable = "rope"

[usual_cutout]
kind = "mcb"

[words]
board = "fuse chest"
protective_conductor = "safety wire"

[vocabulary]
board = { word = "fuse chest" }
way = { word = "way" }
space = { word = "space" }
main_switch = { word = "main switch" }
cut_out = { word = "cut-out fuse" }
tails = { word = "meter tails", plural = "meter tails" }
distributor = { word = "distributor" }
phase = { word = "phase" }
feeder = { word = "distribution circuit" }
protective_conductor = { word = "safety wire" }
protective_conductor_short = { word = "CPC" }
earthing_conductor = { word = "earthing conductor" }
main_earth = { word = "main earthing terminal" }
bonding = { word = "main protective bonding", plural = "main protective bonding" }
neutral_earth_link = { word = "PEN split" }
earth = { word = "earth", plural = "earth" }
rcd = { word = "RCD", article = "an" }
rcbo = { word = "RCBO", article = "an" }
afdd = { word = "AFDD", article = "an" }
spd = { word = "SPD", article = "an" }
selectivity = { word = "selectivity", plural = "selectivity" }
busbar = { word = "busbar" }
socket = { word = "socket-outlet" }
circuit_chart = { word = "circuit chart" }

[tables]
loop_rule = "isle.loop"
tt_rule = "isle.touch"
electrode_rule = "isle.electrode"
rcd_route_rule = "isle.rule"
breaking_rule = "isle.rule"
assembly_rule = "isle.assembly"
fuse_breaking = "isle.r"
ring_rule = "isle.rule"
ring_drop_rule = "isle.rule"
declared_ze = "isle.declared"
adiabatic_rule = "isle.rule"
overload_rule = "isle.rule"
capacity_rule = "isle.rule"
drop_correction = "isle.rule"
withstand_rule = "isle.rule"

[drop_limit]
table = "isle.drop-limit"
row = { network = "all" }
lighting = "lamps"
other = "rest"
counts_from = "the jetty"

[min_area]
table = "isle.min-area"
column = "min_mm2"
row = { wiring = "rope" }
uses = { other = "any" }

[disconnection]
table = "isle.times"
column = { "TN-S" = "s", TT = "s" }

[[disconnection_case]]
row = "everything"
uses = ["distribution", "sockets", "fixed"]

[rcd_times]
table = "isle.rcd"
most = "max_ms"
per_second = 1000
general = "quick"
delayed = "slow"

[demand]
methods = ["all"]

[[demand_method]]
id = "all"
title = "Everything at once"
by = "count"
rule = "isle.rule"
socket_rule = "isle.rule"
full_rule = "isle.rule"
table = "isle.total"
full = []

[earthing]
by = "line"
table = "isle.earth"
upto = "upto"
size = "size"
rule = "isle.rule"

[bonding]
rule = "isle.rule"
least_mm2 = 3
what_rule = "isle.rule"

[backup]
kinds = []

[default_device]
final = "mcb"
distribution = "mcb"
curve = "B"
distribution_curve = "B"
breaking_ka = 6
idn_ma = 30
rcd_type = "A"
ring_a = 10
radial_a = 10

[default_grouping]
air = "heap"

[ambient.air]
base_c = 25
table = { hemp = "isle.warm" }

[[method]]
id = "SKY"
title = "Hung in the air"
text = "Hung between masts."
medium = "air"
entry_words = ["mast"]

[[grouping]]
id = "heap"
title = "In a heap"
medium = "air"
table = "isle.heap"
column = "factor"
beyond = "refuse"

[[cable]]
id = "rope"
title = "Hemp rope"
short = "Rope"
insulation = "hemp"
material = "copper"
rated_as = "hemp"
operating_c = 60
capacity = [{ loaded = 2, table = "isle.capacity", column = "method_{method}" }]
drop = [{ loaded = 2, table = "isle.drop", r = "r" }]
r20 = [{ table = "isle.r", column = "r" }]
hot = { table = "isle.hot", together = "together", apart = "apart", apart_c = 25 }
hot_column = "hemp"
k = { live = ["isle.k", "copper", "hemp"], core = ["isle.k", "copper", "hemp"] }
cpc_choices = ["core"]
methods = ["SKY"]

[[device]]
id = "mcb"
title = "Tripper"
short = "Trip"
standard = "none"
action = "breaker"
curves = ["B"]
ratings = { table = "isle.ratings", column = "rating_A" }
loop = { B = "isle.trip" }
clears_s = 0.2
breaking_choices_ka = [6]
overload = { table = "isle.device-factors", air = "all", ground = "all" }
corrects_drop = true
has_rcd = false
current = true
modules = 1
"""

HEAD = 'publication = "arithmetic, invented"\nprovenance = "formula"\n'

TABLES = {
    "r": ("area_mm2, r", "[[1.0, 10], [2.0, 5], [4.0, 2.5]]"),
    "capacity": ("area_mm2, method_SKY", "[[1.0, 10], [2.0, 20], [4.0, 40]]"),
    "drop": ("area_mm2, r", "[[1.0, 20], [2.0, 10], [4.0, 5]]"),
    "hot": ("arrangement, hemp", '[["apart", 1.0], ["together", 2.0]]'),
    "times": ("circuit, s", '[["everything", 1.0]]'),
    "drop-limit": ("network, lamps, rest", '[["all", 2.0, 10.0]]'),
    "rcd": ("kind, multiple, min_ms, max_ms", '[["quick", 1, 0, 100], ["slow", 1, 0, 900]]'),
    "min-area": ("wiring, use, min_mm2", '[["rope", "any", 1.0]]'),
    "declared": ("system, ze_ohm", '[["TN-S", 0.5]]'),
    "total": ("circuits_upto, factor", "[[1, 1.0], [9, 0.5]]"),
    "earth": ("upto, size", "[[2.0, 1.0], [9.0, 4.0]]"),
    "k": ("insulation, copper", '[["hemp", 100]]'),
    "device-factors": ("case, Cf, Cc", '[["all", 1.0, 1.0]]'),
    "warm": ("ambient_C, Ca", "[[25, 1.0], [50, 0.5]]"),
    "heap": ("circuits, factor", "[[1, 1.0], [2, 0.5]]"),
    "ratings": ("rating_A, common", "[[10, true], [16, true], [20, true]]"),
    "trip": ("rating_A, ia_A, zs_max_ohm", "[[10, 50, 1.8], [16, 80, 1.1], [20, 100, 0.9]]"),
}
RULES = {
    "loop": "{ cmin = 0.9 }",
    "touch": "{ touch_voltage_V = 25 }",
    "electrode": "{ ra_max_ohm = 50 }",
    "assembly": "{ backup_fuse_max_A = 1, conditional_kA = 1 }",
    "rule": "{ iz_min_A = 1, min_mm2 = 1, device_A = [10], far_point_A = 5 }",
}


def standard_tables() -> str:
    """The invented tables and rules as TOML."""
    parts = []
    for name, (columns, rows) in TABLES.items():
        listed = ", ".join(f'"{column.strip()}"' for column in columns.split(","))
        parts.append(f'[[table]]\nid = "isle.{name}"\n{HEAD}columns = [{listed}]\nrows = {rows}\n')
    for name, params in RULES.items():
        parts.append(f'[[rule]]\nid = "isle.{name}"\ntext = "invented"\n{HEAD}params = {params}\n')
    return "\n".join(parts)


_CACHED = (data_folder.homes, data_folder.standard_ids, rule_data._folder, standard_file.standard_file)
#: Modules that ask for the folder of the packaged standards.
_ASK = (data_folder, rule_data, standard_file)


def _forget() -> None:
    for cached in (rules.rule_set, rule_data.load, rule_data.known_publications, *_CACHED):
        cached.cache_clear()


class FurtherStandard(unittest.TestCase):
    """The isle, beside the packaged standards."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        root = Path(folder.name) / "data"
        with as_file(data_folder.data_root()) as packaged:
            shutil.copytree(packaged, root)
        (root / "isle").mkdir()
        (root / "isle" / "standard.toml").write_text(SCHOOL, "utf-8")
        (root / "isle" / "tables.toml").write_text(standard_tables(), "utf-8")
        self.addCleanup(_forget)
        for module in _ASK:
            patched = patch.object(module, "data_root", lambda: root)
            patched.start()
            self.addCleanup(patched.stop)
        _forget()

    rope = Cable(type="rope", area_mm2=2.0, cpc="core")
    isle = JobInfo(title="Isle", rules="isle")

    def island(self, **changed: object) -> object:
        return circuit(cable=self.rope, device=mcb(10.0), run=(laid(10.0, "SKY"),), design_current_a=8.0, **changed)

    def test_it_is_found_by_being_there(self) -> None:
        self.assertIn("isle", rules.standard_ids())

    def test_every_check_answers_by_its_figures(self) -> None:
        made = job(
            self.island(),
            job=self.isle,
            supply=supply(system="TN-S", nominal_v=100.0, ze_ohm=0.5, cutout=None, tails=None, earthing=None),
        )
        figures = {
            name: (finding(made, name).value, finding(made, name).limit)
            for name in ("overload", "capacity", "voltage-drop")
        }
        self.assertEqual(figures["overload"], (8.0, 10.0))
        self.assertEqual(figures["capacity"], (10.0, 20.0))
        # 10 mV/(A·m) · 8 A · 10 m = 0.8 V of 100 V.
        self.assertAlmostEqual(figures["voltage-drop"][0] or 0, 0.8)
        # 0.5 Ω + 2 · (5 + 5) mΩ/m · 10 m = 0.7 Ω; 100 V · 0.9 / 50 A = 1.8 Ω.
        loop, heat = finding(made, "disconnection"), finding(made, "protective-conductor")
        self.assertAlmostEqual(loop.value or 0, 0.7)
        self.assertEqual((loop.limit, step_result(loop, "t")), (1.8, 1.0))
        # 100 V / 0.7 Ω for 0.2 s at k = 100.
        self.assertAlmostEqual(heat.value or 0, 100 / 0.7 * 0.2**0.5 / 100)
        self.assertEqual(finding(made, "breaking-capacity").verdict, "pass")

    def test_its_edges_are_its_own(self) -> None:
        warm = self.island().model_copy(update={"run": (laid(10.0, "SKY", ambient_c=40.0, circuits_grouped=2),)})  # type: ignore[attr-defined]
        island = supply(system="TN-S", nominal_v=100.0, ze_ohm=0.5, cutout=None, tails=None, earthing=None)
        found = finding(job(warm, job=self.isle, supply=island), "capacity")
        self.assertEqual((found.limit, found.verdict), (20 * 0.5 * 0.5, "fail"))

    def test_the_packaged_standards_stay_as_they_are(self) -> None:
        self.assertEqual(finding(job(circuit(cable=flat(2.5))), "capacity").limit, 27)
        self.assertEqual(finding(two_boards(), "overload").verdict, "pass")


if __name__ == "__main__":
    unittest.main()
