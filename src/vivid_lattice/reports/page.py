"""A job as one HTML file that is alone, read-only: the lattice, every calculation, the boards. No script, nothing fetched."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape
from importlib.resources import files

from vivid_lattice.core.checks import CHECKS
from vivid_lattice.core.document.job import Circuit
from vivid_lattice.core.document.work_details import work_title
from vivid_lattice.core.findings.finding import Finding
from vivid_lattice.core.findings.verdict import Verdict
from vivid_lattice.reports import style
from vivid_lattice.reports.report_data import ReportData, device_short
from vivid_lattice.reports.sheets.parts import cited, with_needs
from vivid_lattice.reports.svg import board_svg
from vivid_lattice.safe_text import without_controls


def job_page(data: ReportData) -> bytes:
    """The file."""
    return "\n".join(_page(data)).encode("utf-8")


def _e(text: object) -> str:
    return escape(without_controls(str(text)), quote=True)


def _page(data: ReportData) -> Iterator[str]:
    css = (files("vivid_lattice.reports") / "page.css").read_text("utf-8")
    info = data.job.job
    yield '<!doctype html>\n<html lang="en"><head><meta charset="utf-8">'
    yield '<meta name="viewport" content="width=device-width, initial-scale=1">'
    yield "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; style-src 'unsafe-inline'; img-src data:\">"
    yield f"<title>{_e(info.title)}</title><style>{css}</style></head><body>"
    yield f"<header><h1>{_e(info.title)}</h1><p>{_e(info.site)} · {_e(data.revision_text)} · read-only copy made {_e(data.made_at[:16].replace('T', ' '))} UTC</p></header>"
    yield "<main>"
    work = data.job.work_details.kind
    facts = [
        ("Client", info.client or "not stated"),
        ("Rules", f"{data.network.rules.title}, {data.network.rules.edition}"),
        ("Work", str(work_title(work)) if work else "not stated"),
        (
            "Findings",
            ", ".join(f"{count} {style.verdict_word(verdict)}" for verdict, count in data.assessment.counts.items()),
        ),
    ]
    yield "<dl>" + "".join(f"<dt>{_e(name)}</dt><dd>{_e(value)}</dd>" for name, value in facts) + "</dl>"
    yield '<section class="caution"><h2>Before anything else</h2>'
    yield "".join(f"<p>{_e(line)}</p>" for line in data.assessment.cautions) + "</section>"
    yield from _assumed(data)
    yield '<section><h2>Supply</h2><table><thead><tr><th scope="col">Check</th><th scope="col">Answer</th></tr></thead><tbody>'
    for finding in data.by_subject.get("supply", ()):
        yield f'<tr><th scope="row">{_e(data.title_of(finding))}</th><td>{_opened(data, finding)}</td></tr>'
    yield "</tbody></table></section>"
    for board in data.job.boards:
        yield from _board(data, board.id)
    yield "</main><footer>Made with Vivid Lattice. Figures from tables written down from memory say so; a licensed electrician confirms, decides, tests and signs.</footer></body></html>"


def _assumed(data: ReportData) -> Iterator[str]:
    """What is assumed and not confirmed; nothing where all is."""
    assumptions = data.assessment.assumptions
    if not assumptions:
        return
    yield f'<section class="caution"><h2>{_e(str(data.say("documents.assumed.title", n=len(assumptions))))}</h2><ul>'
    for each in assumptions:
        value = f"{each.shown} {each.unit}".rstrip()
        line = data.say("documents.assumed.line", label=each.label, value=value, how=each.confirm)
        yield f"<li>{_e(str(line))}</li>"
    yield "</ul></section>"


def _board(data: ReportData, board_id: str) -> Iterator[str]:
    name = data.names[board_id]
    yield f"<section><h2>{_e(name)}</h2>"
    findings = [finding for finding in data.by_subject.get(board_id, ()) if finding.verdict != "not-applicable"]
    yield '<table class="plain"><tbody>'
    for finding in findings:
        yield f'<tr><th scope="row">{_e(data.title_of(finding))}</th><td>{_opened(data, finding)}</td></tr>'
    yield "</tbody></table>"
    yield '<div class="wide"><table class="lattice"><thead><tr><th scope="col">Way</th><th scope="col">Circuit</th><th scope="col">Device</th><th scope="col">Cable</th>'
    words = data.network.rules.words
    yield "".join(f'<th scope="col" title="{_e(check.title(words))}">{_e(check.head(words))}</th>' for check in CHECKS)
    yield "</tr></thead><tbody>"
    circuits = [circuit for circuit in data.circuits if data.figures[circuit.id].board == board_id]
    for circuit in circuits:
        yield _row(data, circuit)
    yield "</tbody></table></div>"
    for circuit in circuits:
        yield f'<details id="{_e(circuit.id)}"><summary>{data.figures[circuit.id].way} {_e(circuit.name)}: every check</summary>'
        for finding in data.by_subject[circuit.id]:
            yield f"<h3>{_e(data.title_of(finding))}</h3>{_opened(data, finding)}"
        yield "</details>"
    view = data.view(board_id)
    if view is not None:
        yield f"<figure>{board_svg(view, name, stands_alone=False)}<figcaption>{_e(name)} as it is laid out, cover off, to scale.</figcaption></figure>"
    yield "</section>"


def _row(data: ReportData, circuit: Circuit) -> str:
    row = data.figures[circuit.id]
    length = "?" if row.length_m is None else f"{row.length_m:g}"
    findings = {finding.check: finding for finding in data.by_subject[circuit.id]}
    cells = "".join(_cell(findings[check.id]) for check in CHECKS)
    return (
        f'<tr><td>{row.way}</td><th scope="row"><a href="#{_e(circuit.id)}">{_e(circuit.name)}</a></th>'
        f"<td>{_e(device_short(circuit))}</td><td>{_e(row.size or '?')}, {length} m</td>{cells}</tr>"
    )


_SIGNS: dict[Verdict, str] = {
    "pass": "▬",
    "tight": "▮▬",
    "fail": "◀",
    "advice": "◇",
    "missing": "▭",
    "not-applicable": "–",
}


def _cell(finding: Finding) -> str:
    figure = f"{finding.shown_value} / {finding.shown_limit}" if finding.value is not None else ""
    return (
        f'<td class="{finding.verdict}" title="{_e(finding.sentence)}"><span aria-hidden="true">{_SIGNS[finding.verdict]}</span>'
        f' <small>{_e(figure)}</small><span class="said"> {_e(style.verdict_word(finding.verdict))}</span></td>'
    )


def _opened(data: ReportData, finding: Finding) -> str:
    """A finding's sentence with its calculation, to be unfolded."""
    words = f'<b class="{finding.verdict}">{_e(style.verdict_word(finding.verdict))}</b> {_e(with_needs(finding))}'
    if not finding.working:
        return f"<p>{words}</p>"
    steps = "".join(
        f"<tr><td>{_e(step.symbol)}</td><td>{_e(step.meaning)}</td><td>{_e(' = '.join(str(part) for part in (step.formula, step.figures) if part))}</td>"
        f"<td><b>{_e(step.shown)} {_e(step.unit)}</b></td><td>{_e(cited(step.source))}</td></tr>"
        for step in finding.working
    )
    rule = f"<p>Rule: {_e(cited(finding.rule))}</p>" if finding.rule else ""
    return f'<details><summary>{words}</summary><table class="sum"><tbody>{steps}</tbody></table>{rule}</details>'
