import type { Board, BoardView, Conductor } from "../api/client";
import { useJob } from "../job/JobContext";
import { withBoard } from "../job/jobModel";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Choice } from "../ui/Field";
import { cut } from "./boardModel";

/** The device in hand: where each of its conductors goes, and the screws of its neutral and earth. */
export function SelectedDevice({
  board,
  view,
  chosen,
}: {
  board: Board;
  view: BoardView;
  chosen: string | undefined;
}) {
  const unit = view.units.find((unit) => unit.id === chosen);
  if (!unit) return null;
  const ofDevice = (terminal: string) => {
    const name = terminal.replace("bar>", "").split("/")[0] ?? "";
    return name === unit.id || (unit.circuit !== "" && name.split("+")[0] === `cable:${unit.circuit}`);
  };
  const wires = view.conductors.filter(
    (conductor) => ofDevice(conductor.start.terminal) || ofDevice(conductor.end.terminal),
  );
  return (
    <section
      aria-label={t("web.board.selected.section")}
      className="rounded-xl border border-line bg-sheet px-3 py-2 text-[12.5px]"
      data-testid="chosen-unit"
    >
      <h2 className="text-[13px] font-semibold">
        {unit.way ? `${t("web.board.selected.way", { n: unit.way })} ` : ""}
        {say(unit.name)} <span className="figure font-normal text-soft">{unit.mark}</span>
        <span className="font-normal text-soft">
          {unit.row > 0 &&
            ` · ${t("web.board.selected.position", { row: unit.row, n: unit.offset_modules + 1, wide: unit.wide })}`}
        </span>
      </h2>
      <ul className="grid gap-x-6 sm:grid-cols-2">
        {wires.map((wire) => (
          <li key={wire.id}>{described(wire)}</li>
        ))}
      </ul>
      {unit.kind === "way" && <NeutralBar board={board} view={view} circuit={unit.circuit} />}
    </section>
  );
}

/** Where its neutral was found, or is to be, where the board has more than one bar for it. */
function NeutralBar({ board, view, circuit }: { board: Board; view: BoardView; circuit: string }) {
  const { document, edit } = useJob();
  const bars = view.bars.filter((bar) => bar.conductor === "N");
  const { neutral_connections } = board.build;
  const elsewhere = neutral_connections.find((connection) => connection.circuit === circuit)?.bar ?? "";
  if (bars.length < 2 && !elsewhere) return null;
  const put = (bar: string) => {
    const rest = neutral_connections.filter((connection) => connection.circuit !== circuit);
    const next = bar ? [...rest, { circuit, bar }] : rest;
    edit(withBoard(document, { ...board, build: { ...board.build, neutral_connections: next } }));
  };
  return (
    <div className="mt-1 w-64">
      <Choice
        label={t("web.board.selected.neutral")}
        value={elsewhere}
        options={[
          { value: "", label: t("web.board.selected.neutral_own") },
          ...bars.map((bar) => ({ value: bar.id, label: say(bar.title) })),
        ]}
        onCommit={put}
      />
    </div>
  );
}

function described(conductor: Conductor): string {
  const facts = [
    conductor.colour,
    say(conductor.size),
    conductor.kind === "plug" ? "" : cut(conductor.length_mm),
  ]
    .filter(Boolean)
    .join(", ");
  return `${say(conductor.start.text)} → ${say(conductor.end.text)}${facts ? ` (${facts})` : ""}`;
}
