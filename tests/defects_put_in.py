"""Defects put into a wiring by hand, by the ids of the catalogue; which of them no reading of the tester tells apart; where each may be."""

from __future__ import annotations

from tests.faulty_wiring import POINTS, Wiring


def _leg(wiring: Wiring) -> int:
    return wiring.rng.randint(1, POINTS)


def _rj(wiring: Wiring) -> float:
    """A joint poor enough to be noticed: some tenths of an ohm to some ohms."""
    return 0.35 * 10 ** wiring.rng.uniform(0, 1)


def _joint(name: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.joints[name, _leg(wiring)] = _rj(wiring)

    return put


def _break(name: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.breaks.add((name, _leg(wiring)))

    return put


def _terminal(name: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.terminals[name] = 2 * _rj(wiring)

    return put


def _leak(*pairs: str, low: float = 0.02, high: float = 0.6):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        mohm = low * (high / low) ** wiring.rng.random()
        for pair in pairs:
            wiring.leaks_mohm[pair] = mohm * wiring.rng.uniform(0.75, 1.3)

    return put


def _state(state: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.rcd_state = state

    return put


def _longer(wiring: Wiring) -> None:
    wiring.stretch *= wiring.rng.uniform(1.6, 2.6)


def _shorter(wiring: Wiring) -> None:
    wiring.stretch *= wiring.rng.uniform(0.35, 0.55)


def _hidden_break(wiring: Wiring) -> None:
    wiring.breaks.add(("E", _leg(wiring)))
    wiring.parallel_ohm = wiring.rng.uniform(3, 12) * wiring.cpc_ohm


def _parallel(wiring: Wiring) -> None:
    wiring.parallel_ohm = wiring.rng.uniform(0.05, 0.35) * wiring.cpc_ohm


def _spur(wiring: Wiring) -> None:
    wiring.spur_ohm = wiring.rng.uniform(0.09, 0.2)


def _thin(wiring: Wiring) -> None:
    wiring.thin = (wiring.rng.randint(4, POINTS), 1.7, 1.7)


def _small_cpc(wiring: Wiring) -> None:
    # 1.0 mm² of 18.1 in place of 1.5 mm² of 12.1 mΩ/m: IEC 60228.
    wiring.cpc_times = 1.5


def _button(wiring: Wiring) -> None:
    wiring.button_works = False


def _same_leg(wiring: Wiring) -> None:
    wiring.same_leg = True


def _short(wiring: Wiring) -> None:
    wiring.leaks_mohm["LE"] = 0.0
    wiring.short = True


def _neutral_to_earth(wiring: Wiring) -> None:
    wiring.leaks_mohm["NE"] = 0.0


def _exchanged(a: str, b: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.swapped = (a, b)

    return put


def _bootleg(wiring: Wiring) -> None:
    wiring.breaks.add(("E", _leg(wiring)))
    wiring.joined_at_outlet = True
    wiring.leaks_mohm["NE"] = 0.0


def _second_link(wiring: Wiring) -> None:
    wiring.leaks_mohm["NE"] = 0.0


def _leads(wiring: Wiring) -> None:
    wiring.lead_ohm = wiring.rng.uniform(0.25, 0.6)


def _warm(wiring: Wiring) -> None:
    wiring.stretch *= wiring.rng.uniform(1.1, 1.24)


def _lift(wiring: Wiring) -> None:
    wiring.loop_adds_ohm = wiring.rng.uniform(0.3, 0.6)


def _varistor(wiring: Wiring) -> None:
    # 430 V at the milliampere of the tester.
    for pair in ("LE", "LN"):
        wiring.leaks_mohm[pair] = 0.43 * wiring.rng.uniform(0.92, 1.08)


def _legs_mixed(wiring: Wiring) -> None:
    for name in "LNE":
        wiring.breaks.add((name, POINTS + 1))
    wiring.in_two_ways = True
    wiring.seen_wrong.add("ident")
    wiring.lines_joined_ohm = wiring.line_ohm


def _two_ways(wiring: Wiring) -> None:
    wiring.breaks.add(("L", POINTS + 1))
    wiring.in_two_ways = True
    wiring.seen_wrong.add("ident")
    wiring.lines_joined_ohm = wiring.line_ohm


def _not_behind(wiring: Wiring) -> None:
    """Switched off, the device leaves the circuit live."""
    wiring.rcd_state = "absent"
    wiring.seen_wrong.add("ident")


def _line_ahead(wiring: Wiring) -> None:
    _not_behind(wiring)
    wiring.unbalance = 1.0


def _bridge(wiring: Wiring) -> None:
    low, high = wiring.rng.choice([(1, 4), (1, 5), (2, 5)])
    wiring.bridge = low, high, wiring.rng.uniform(0.05, 0.2) * wiring.line_ohm


def _crossed_leg(wiring: Wiring) -> None:
    wiring.crossed_leg = _leg(wiring)
    wiring.leaks_mohm["LN"] = 0.0


def _aluminium(wiring: Wiring) -> None:
    """It opens under current only: a dead test does not show it."""
    wiring.terminals[wiring.rng.choice("LN")] = 2 * _rj(wiring)


def _bootleg_reversed(wiring: Wiring) -> None:
    _bootleg(wiring)
    wiring.swapped = ("L", "N")


def _seen(*kinds: str):  # type: ignore[no-untyped-def]
    def put(wiring: Wiring) -> None:
        wiring.seen_wrong.update(kinds)

    return put


def _unbalanced(share: float, *, ident: bool = False, others: bool = False):  # type: ignore[no-untyped-def]
    """A load of which so much does not come home through the device."""

    def put(wiring: Wiring) -> None:
        wiring.unbalance, wiring.others_trip = share, others
        if ident:
            wiring.seen_wrong.add("ident")

    return put


def _borrowed(wiring: Wiring) -> None:
    wiring.unbalance, wiring.neutral_elsewhere = 1.0, True
    wiring.seen_wrong.add("ident")


def _joined(wiring: Wiring) -> None:
    """The load's current divides as the two ways home are long."""
    own, other = wiring.neutral_ohm, wiring.rng.uniform(0.1, 1.5)
    wiring.neutrals_joined_ohm = own + other
    wiring.unbalance = own / (own + other)


def _coil(wiring: Wiring) -> None:
    # 6 to 8 VA.
    wiring.unbalance = wiring.rng.uniform(6, 8) / wiring.nominal_v / wiring.load_a


def _one_line_twice(wiring: Wiring) -> None:
    wiring.line_missing_between = True
    if wiring.lines == 3:
        wiring.seen_wrong.add("rot")


def _fed_from_below(wiring: Wiring) -> None:
    wiring.button_works = False
    wiring.seen_wrong.add("insp")


def _blinded(wiring: Wiring) -> None:
    wiring.blinded_times = wiring.rng.uniform(1.8, 3.5)


def _two_feeds(wiring: Wiring) -> None:
    wiring.seen_wrong.add("ident")
    wiring.lines_joined_ohm = wiring.rng.uniform(0.1, 2.0)


def _no_bond(wiring: Wiring) -> None:
    wiring.bond_ohm = None


def _selv(wiring: Wiring) -> None:
    wiring.leaks_mohm["SELV"] = 0.0


def _ze_high(wiring: Wiring) -> None:
    wiring.ze_ohm += wiring.rng.uniform(0.6, 2.0)


def _main_neutral(wiring: Wiring) -> None:
    wiring.zln0_ohm += wiring.rng.uniform(0.6, 2.0)


def _earth_off(wiring: Wiring) -> None:
    # By pipes in the ground to the electrode of the source.
    wiring.ze_ohm = wiring.rng.uniform(9.0, 20.0)
    wiring.earth_off = True


def _no_link(wiring: Wiring) -> None:
    # By its electrode and that of the source.
    wiring.ze_ohm = wiring.rng.uniform(6.0, 40.0)


def _dry(wiring: Wiring) -> None:
    more = wiring.rng.uniform(3.0, 12.0) * (wiring.electrode_ohm or 0.0)
    wiring.electrode_ohm = (wiring.electrode_ohm or 0.0) + more
    wiring.ze_ohm += more


def _no_pen(wiring: Wiring) -> None:
    """Neutral and earth of the house stay together; both find the source through the ground."""
    wiring.ze_ohm = wiring.zln0_ohm = wiring.rng.uniform(6.0, 25.0)
    wiring.pen_broken_a = wiring.rng.uniform(2.0, 8.0)


def _at_board(wiring: Wiring) -> None:
    wiring.reversed_at_board, wiring.ze_text = True, "LIM"


def _bonds_connected(wiring: Wiring) -> None:
    """The earth of the supply is poor; read beside a pipe it looks right."""
    wiring.ze_ohm += wiring.rng.uniform(0.8, 2.0)
    pipe = wiring.rng.uniform(0.15, 0.3)
    wiring.ze_text = f"{wiring.ze_ohm * pipe / (wiring.ze_ohm + pipe):.2f}"


def _house_earth(wiring: Wiring) -> None:
    wiring.ze_ohm = wiring.rng.uniform(0.4, 1.2)


#: What is put in, by the id of the defect. Radials and rings have their own.
RADIAL = {
    "joint-line": _joint("L"), "joint-neutral": _joint("N"), "joint-cpc": _joint("E"), "loose-line-terminal": _terminal("L"),
    "loose-cpc-terminal": _terminal("E"), "open-line": _break("L"), "open-neutral": _break("N"), "open-cpc": _break("E"),
    "open-cpc-parallel": _hidden_break, "parallel-path": _parallel, "aluminium-joint": _aluminium,
    "ln-reversed-outlet": _exchanged("L", "N"), "npe-swapped-outlet": _exchanged("N", "E"), "lpe-swapped-outlet": _exchanged("L", "E"),
    "bootleg-ground": _bootleg, "bootleg-reversed": _bootleg_reversed, "switch-in-neutral": _seen("pol"),
    "lampholder-shell-live": _seen("pol"), "borrowed-neutral": _borrowed, "mwbc-same-line": _one_line_twice,
    "mwbc-open-neutral": _break("N"), "phase-rotation": _seen("rot"), "line-from-other-phase": _one_line_twice,
}  # fmt: skip
RING = {
    "joint-ring-line": _joint("L"), "joint-ring-cpc": _joint("E"), "ring-open-line": _break("L"), "ring-open-neutral": _break("N"),
    "ring-open-cpc": _break("E"), "spur": _spur, "ring-linked-same-leg": _same_leg,
    "spur-on-spur": _spur, "ring-two-ways": _two_ways, "ring-legs-mixed": _legs_mixed, "ring-bridge": _bridge,
    "ring-cable-reversed": _crossed_leg,
}  # fmt: skip
ANY = {
    "longer-run": _longer, "shorter-run": _shorter, "undersized-section": _thin, "small-cpc-cable": _small_cpc,
    "ne-fault": _neutral_to_earth, "rcd-stuck": _state("stuck"), "rcd-slow": _state("slow"), "rcd-sensitive": _state("sensitive"),
    "circuit-not-behind-rcd": _not_behind, "button-dead": _button, "ir-damp": _leak("LE", "NE", "LN"),
    "ir-damage-le": _leak("LE"), "ir-damage-ne": _leak("NE"), "ir-damage-ln": _leak("LN"), "temporary-short": _short,
    "element-leak": _leak("LE", "NE"), "electronics-left-in": _leak("LN"), "spd-left-in": _varistor, "second-link": _second_link,
    "leads-not-nulled": _leads, "conductor-warm": _warm, "rcd-lift": _lift, "rcd-delayed": _state("slow"),
    "leakage-standing": _state("sensitive"), "line-ahead": _line_ahead,
    "ze-high": _ze_high, "main-neutral-loose": _main_neutral, "earthing-conductor-off": _earth_off, "men-missing": _no_link,
    "tt-rod-dry": _dry, "pen-open": _no_pen, "reversed-at-board": _at_board, "ze-with-parallel-paths": _bonds_connected,
    "tt-tn-mixed": _house_earth, "bond-missing": _no_bond, "bond-false": _no_bond, "not-extraneous": _no_bond, "spd-failed": _seen("spd"),
    "afdd-dead": _seen("afdd"), "overload": _seen("func"), "neutral-wrong-bar": _unbalanced(1.0, ident=True),
    "rcd-neutrals-swapped": _unbalanced(1.0, ident=True, others=True), "rcbo-neutral-bypass": _unbalanced(1.0),
    "rcd-neutral-crossed": _unbalanced(2.0, others=True), "neutrals-joined": _joined, "coil-neutral-wrong-group": _coil,
    "rcd-fed-from-below": _fed_from_below, "rcd-ac-blinded": _blinded, "selv-not-separate": _selv,
    "breaker-too-large": _seen("insp"), "breaker-too-small": _seen("insp", "func"), "breaker-curve": _seen("insp"),
    "breaking-capacity-low": _seen("insp"), "circuit-other-breaker": _seen("ident"), "two-feeds": _two_feeds,
    "contactor-welded": _seen("func"), "coil-backfed": _seen("func"), "voltage-relay-setting": _seen("func"),
}  # fmt: skip
#: Those of the installation, of bonds and surge devices: told of them.
OF_INSTALLATION = frozenset(
    {"ze-high", "main-neutral-loose", "earthing-conductor-off", "men-missing", "tt-rod-dry", "pen-open", "reversed-at-board",
     "ze-with-parallel-paths", "tt-tn-mixed", "bond-missing", "bond-false", "not-extraneous", "spd-failed"}
)  # fmt: skip
#: Defects that no reading of this tester tells apart, declared beforehand: each set counts as one.
CLASSES = (
    {"rcd-lift", "loose-cpc-terminal"},
    {"spur", "spur-on-spur"},
    {"rcd-sensitive", "leakage-standing"},
    {"rcd-slow", "rcd-delayed"},
    {"ir-damage-le", "element-leak"},
    {"ir-damage-ln", "electronics-left-in"},
    {"ne-fault", "second-link"},
    {"longer-run", "undersized-section"},
    {"joint-cpc", "open-cpc-parallel"},
    {"aluminium-joint", "loose-line-terminal"},
    {"switch-in-neutral", "lampholder-shell-live"},
    {"bond-missing", "bond-false", "not-extraneous"},
    {"breaker-too-large", "breaker-curve", "breaking-capacity-low"},
    {"overload", "contactor-welded", "coil-backfed", "voltage-relay-setting"},
)

_LEAKS = {"ir-damage-le", "ir-damage-ne", "ir-damage-ln", "ir-damp", "ne-fault", "temporary-short", "element-leak", "electronics-left-in",
          "spd-left-in", "second-link", "bootleg-ground", "bootleg-reversed", "ring-cable-reversed"}  # fmt: skip
_ABSENT = {"circuit-not-behind-rcd", "line-ahead", "rcd-stuck"}
_UNBALANCED = {"neutral-wrong-bar", "rcd-neutrals-swapped", "rcbo-neutral-bypass", "borrowed-neutral", "neutrals-joined", "rcd-neutral-crossed",
               "coil-neutral-wrong-group", "ne-fault", "second-link", "npe-swapped-outlet", "leakage-standing", "rcd-sensitive"}  # fmt: skip
#: Conductors exchanged at an outlet: what else is wrong with them reads like something wrong with another one.
EXCHANGED = frozenset(
    {"ln-reversed-outlet", "npe-swapped-outlet", "lpe-swapped-outlet", "bootleg-ground", "bootleg-reversed"}
)
#: Of these, two at once read like another one: a longer run with a part not reached, two leaks like an appliance, a device that is not ahead
#: of the circuit and whose button is dead like one that is stuck, two things that are seen at the same place.
LIKE_ANOTHER = (
    {"longer-run", "shorter-run"},
    _LEAKS,
    {"button-dead", "rcd-fed-from-below", *_ABSENT},
    {"bootleg-ground", "bootleg-reversed", *_UNBALANCED, *_ABSENT},
    {"ne-fault", "second-link", "open-cpc", "open-cpc-parallel"},
    {"circuit-other-breaker", "two-feeds", *_UNBALANCED},
    {"circuit-other-breaker", "two-feeds", "ring-two-ways", "ring-legs-mixed", "neutral-wrong-bar", "rcd-neutrals-swapped",
     "borrowed-neutral", *_ABSENT},
    {"breaker-too-large", "breaker-curve", "breaking-capacity-low", "breaker-too-small", "rcd-fed-from-below", "button-dead"},
    {"overload", "contactor-welded", "coil-backfed", "voltage-relay-setting", "breaker-too-small", "breaker-too-large", "breaker-curve",
     "breaking-capacity-low", "rcd-fed-from-below"},
    {"switch-in-neutral", "lampholder-shell-live", *EXCHANGED},
    {"rcd-ac-blinded", "rcd-slow", "rcd-delayed", *_UNBALANCED, *_ABSENT},
    {"borrowed-neutral", "joint-neutral", "open-neutral", "mwbc-open-neutral"},
    {"phase-rotation", "line-from-other-phase"},
)  # fmt: skip


def reads_like_another(one: str, other: str) -> bool:
    """Whether two defects at once read like another one, or like two others; declared beforehand. One of the installation comes alone: it
    is told of the supply, and what is wrong in a circuit beside it of the circuit."""
    pair = {one, other}
    of_conductors = {
        *RADIAL,
        *RING,
        "longer-run",
        "shorter-run",
        "undersized-section",
        "small-cpc-cable",
        "leads-not-nulled",
    }
    return (
        bool(class_of(one) & class_of(other) or pair & OF_INSTALLATION)
        or any(pair <= each for each in LIKE_ANOTHER)
        or bool(pair & EXCHANGED and (pair - EXCHANGED) & (of_conductors | _LEAKS | _UNBALANCED))
        or pair <= EXCHANGED
    )


def class_of(defect: str) -> frozenset[str]:
    """A defect and those that readings do not tell it from."""
    return frozenset({defect}).union(*(group for group in CLASSES if defect in group))
