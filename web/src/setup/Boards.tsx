import { useState } from "react";
import type { Board } from "../api/client";
import { Answer } from "../circuits";
import { blankBoard, blankFeeder } from "../job/blank";
import { useJob } from "../job/JobContext";
import { freeId, LINES, withBoard } from "../job/jobModel";
import { planWithoutBoard } from "../job/planWithout";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";
import { Card } from "./Card";
import { FedFromEitherSide } from "./FedFromEitherSide";
import { LocalEarthingFields } from "./LocalEarthing";
import { SharedRcds } from "./SharedRcds";
import { StandbyFields } from "./StandbyFields";

/** The boards of the job: name, ways, main switch, and what feeds them. */
export function Boards() {
  const { document, rules, edit } = useJob();
  const boards = document.boards ?? [];
  const [error, setError] = useState("");

  const remove = (board: Board) => {
    if (board.ways?.length)
      return setError(t("web.setup.boards.not_empty", { n: board.ways.length, board: board.name }));
    setError("");
    edit({
      ...planWithoutBoard(document, board.id),
      boards: boards.filter((known) => known.id !== board.id),
    });
  };

  return (
    <Card title={t("web.setup.boards.title")}>
      {boards.map((board) => (
        <div key={board.id} className="mb-4 grid items-start gap-3 border-b border-line pb-3 sm:grid-cols-5">
          <Field label={t("web.setup.boards.name")}>
            {(id) => (
              <TextBox
                id={id}
                value={board.name}
                maxLength={120}
                onCommit={(name) => name.trim() && edit(withBoard(document, { ...board, name: name.trim() }))}
              />
            )}
          </Field>
          <FigureField
            label={t("web.setup.boards.ways")}
            unit=""
            required
            value={board.way_count}
            onCommit={(ways) => {
              const last = Math.max(0, ...(board.ways ?? []).map((way) => way.number));
              if (!ways) return;
              if (ways < last) return setError(t("web.setup.boards.way_in_use", { last, board: board.name }));
              setError("");
              edit(withBoard(document, { ...board, way_count: Math.round(ways) }));
            }}
          />
          <FigureField
            label={t("web.setup.boards.main_switch")}
            unit="A"
            value={board.main_switch?.rating_a}
            onCommit={(rating_a) =>
              edit(
                withBoard(document, {
                  ...board,
                  main_switch: rating_a ? { ...board.main_switch, rating_a } : null,
                }),
              )
            }
          />
          <Choice
            label={t("web.setup.boards.main_rcd")}
            value={board.main_switch?.rcd ? String(board.main_switch.rcd.idn_ma) : ""}
            options={[
              { value: "", label: "none" },
              ...rules.main_switch_rcds.map(({ idn_ma, time_delayed }) => ({
                value: String(idn_ma),
                label: time_delayed
                  ? t("web.setup.boards.delayed", { ma: idn_ma })
                  : t("web.rcd_plans.leakage_value", { tight: idn_ma }),
              })),
            ]}
            disabled={!board.main_switch}
            onCommit={(idn) =>
              board.main_switch &&
              edit(
                withBoard(document, {
                  ...board,
                  main_switch: {
                    ...board.main_switch,
                    rcd: rules.main_switch_rcds.find((rcd) => String(rcd.idn_ma) === idn) ?? null,
                  },
                }),
              )
            }
          />
          <FigureField
            label={t("web.setup.boards.assembly")}
            unit="kA"
            value={board.assembly_ka}
            hint={t("web.setup.boards.assembly_hint")}
            onCommit={(assembly_ka) => edit(withBoard(document, { ...board, assembly_ka }))}
          />
          <FigureField
            label={t("web.setup.boards.busbar")}
            unit="A"
            value={board.busbar_a}
            onCommit={(busbar_a) => edit(withBoard(document, { ...board, busbar_a }))}
          />
          {board.main_switch?.rcd && (
            <FedFromEitherSide
              value={board.main_switch.bidirectional}
              onCommit={(bidirectional) =>
                board.main_switch &&
                edit(withBoard(document, { ...board, main_switch: { ...board.main_switch, bidirectional } }))
              }
            />
          )}
          <SharedRcds board={board} />
          <div className="sm:col-span-5">
            <StandbyFields
              board={board}
              onChange={(standby) => edit(withBoard(document, { ...board, standby }))}
            />
            <BoardResult board={board.id} check="standby-supply" />
            <BoardResult board={board.id} check="energy-sources" />
          </div>
          {typeof board.fed_by !== "string" && (
            <div className="sm:col-span-5">
              <LocalEarthingFields
                of="board"
                earthing={board.earthing}
                onChange={(earthing) => edit(withBoard(document, { ...board, earthing }))}
              />
              <BoardResult board={board.id} check="local-earthing" />
            </div>
          )}
          <p className="text-[12px] text-soft sm:col-span-4">{feed(board, boards)}</p>
          <Button variant="quiet" className="justify-self-end" onClick={() => remove(board)}>
            {t("web.setup.boards.remove")}
          </Button>
        </div>
      ))}
      {error && (
        <p role="alert" className="mb-2 text-[13px] text-fail">
          {error}
        </p>
      )}
      <AddBoard boards={boards} />
    </Card>
  );
}

/** What a check says of a board, where there is something to say. */
function BoardResult({ board, check: id }: { board: string; check: string }) {
  const { assessment } = useJob();
  const finding = assessment?.findings.find(
    ({ check, subject }) => check === id && subject.kind === "board" && subject.id === board,
  );
  // What is missing is seen in the fields above.
  if (!finding || finding.verdict === "not-applicable" || finding.verdict === "missing") return null;
  return (
    <div className="mt-2">
      <Answer finding={finding} />
    </div>
  );
}

function feed(board: Board, boards: Board[]): string {
  const { fed_by } = board;
  if (typeof fed_by === "string") return t("web.setup.boards.fed_origin");
  const source = boards.find((known) => known.id === fed_by.board);
  return t("web.setup.boards.fed_way", { way: fed_by.way, board: source?.name ?? fed_by.board });
}

/** A further board: its own feeder is made with it, cable and device left to the design, its length to be filled in. */
function AddBoard({ boards }: { boards: Board[] }) {
  const { document, rules, edit, notify } = useJob();
  const [source, setSource] = useState("");
  const chosen = boards.find((board) => board.id === source) ?? boards[0];
  const add = () => {
    const id = freeId("b", boards);
    const blank = blankBoard(id, t("web.setup.boards.default_name", { n: boards.length + 1 }));
    if (!chosen) return edit({ ...document, boards: [blank] });
    const taken = new Set((chosen.ways ?? []).map((way) => way.number));
    const number = Array.from({ length: chosen.way_count }, (_, at) => at + 1).find((way) => !taken.has(way));
    if (!number) return notify(t("web.setup.boards.no_free_way", { board: chosen.name }));
    const circuit = freeId("c", document.circuits ?? []);
    edit({
      ...document,
      circuits: [
        ...(document.circuits ?? []),
        blankFeeder(
          circuit,
          blank.name,
          rules.methods.find((method) => method.medium === "ground")?.id ?? rules.default_method,
          (document.supply.phases ?? 1) > 1 ? LINES.slice(0, document.supply.phases) : [],
        ),
      ],
      boards: [
        ...boards.map((board) =>
          board.id === chosen.id ? { ...board, ways: [...(board.ways ?? []), { number, circuit }] } : board,
        ),
        { ...blank, fed_by: { board: chosen.id, way: number } },
      ],
    });
  };
  return (
    <div className="flex items-end gap-2">
      {boards.length > 0 && (
        <div className="w-56">
          <Choice
            label={t("web.setup.boards.add_from")}
            value={chosen?.id ?? ""}
            options={boards.map((board) => ({ value: board.id, label: board.name }))}
            onCommit={setSource}
          />
        </div>
      )}
      <Button onClick={add}>{t("web.setup.boards.add")}</Button>
    </div>
  );
}
