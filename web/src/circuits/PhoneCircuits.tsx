import { useMemo, useState } from "react";
import type { Finding, Remedy } from "../api/client";
import { ImportTable } from "../import/ImportTable";
import { useJob } from "../job/JobContext";
import { withCircuits, withRemedy } from "../job/jobModel";
import { t } from "../messages/text";
import { Photos } from "../survey/Photos";
import { Dialog } from "../ui/Dialog";
import { TextBox } from "../ui/Field";
import { CellContent } from "./CheckCell";
import { CheckDetails } from "./CheckDetails";
import { CheckGroupSwitch } from "./CheckGroupSwitch";
import { type CheckGroup, checksOf, groupOf } from "./checkGroups";
import {
  cableText,
  cellKey,
  deviceText,
  findingsByCell,
  lengthText,
  methodText,
  type Row,
  rowsOf,
} from "./gridModel";
import { NextSteps } from "./NextSteps";
import { QuickEntry } from "./QuickEntry";
import { isPlanned, typed } from "./typing";

/** The lattice for one free hand: a card a circuit, its length to type over, each check to tap for its sum. */
export function PhoneCircuits() {
  const { document, assessment, rules, cell, focus, edit } = useJob();
  const groups = useMemo(() => rowsOf(document), [document]);
  const byCell = useMemo(() => findingsByCell(assessment?.findings ?? []), [assessment]);
  const [open, setOpen] = useState(false);
  const [group, setGroup] = useState<CheckGroup>("sizing");
  const [table, setTable] = useState<string>();
  const circuit = document.circuits?.find((known) => known.id === cell?.circuit);
  const take = (remedy: Remedy) => {
    edit(withRemedy(document, remedy));
    setOpen(false);
  };
  return (
    <main className="flex-1 overflow-auto p-3" data-testid="pocket">
      <NextSteps
        assessment={assessment}
        onCircuit={(check, circuit) => {
          focus({ check, circuit });
          setGroup(groupOf(rules, check));
          setOpen(true);
        }}
      />
      <div className="mt-2">
        <QuickEntry boards={document.boards ?? []} onAdded={() => undefined} onTable={setTable}>
          {null}
        </QuickEntry>
      </div>
      <div className="mt-2 flex">
        <CheckGroupSwitch group={group} assessment={assessment} onGroup={setGroup} />
      </div>
      {groups.map(({ board, rows }) => (
        <section key={board.id} aria-label={board.name}>
          <h2 className="mb-1 mt-2 font-semibold">{board.name}</h2>
          <ul className="flex flex-col gap-2">
            {rows.map((row) => (
              <Card
                key={row.circuit.id}
                row={row}
                group={group}
                byCell={byCell}
                onCheck={(check) => {
                  focus({ check, circuit: row.circuit.id });
                  setOpen(true);
                }}
              />
            ))}
          </ul>
          <div className="mt-2">
            <Photos board={board.id} way={null} onWhole={() => undefined} />
          </div>
        </section>
      ))}
      {table && <ImportTable of="circuits" source={table} onClose={() => setTable(undefined)} />}
      {circuit && cell && (
        <Dialog open={open} onOpenChange={setOpen} title={circuit.name}>
          <CheckDetails
            circuit={circuit}
            check={cell.check}
            finding={byCell.get(cellKey(cell))}
            onTake={take}
          />
        </Dialog>
      )}
    </main>
  );
}

function Card({
  row,
  group,
  byCell,
  onCheck,
}: {
  row: Row;
  group: CheckGroup;
  byCell: Map<string, Finding>;
  onCheck: (check: string) => void;
}) {
  const { document, rules, edit, notify } = useJob();
  const { circuit, way } = row;
  const several = circuit.run.length > 1;
  const setLength = (text: string) => {
    const result = typed(circuit, "length", text, rules, isPlanned(document, circuit));
    if ("error" in result) notify(result.error);
    else edit(withCircuits(document, [result.circuit]));
  };
  return (
    <li className="rounded-lg border border-line bg-sheet p-2">
      <div className="flex items-baseline gap-2">
        <span className="figure text-soft">{way}</span>
        <b className="min-w-0 flex-1 truncate font-semibold">{circuit.name}</b>
        <span className="figure text-[13px]">
          {deviceText(circuit)} · {cableText(circuit, rules)} {rules.size_unit} · {methodText(circuit, rules)}
        </span>
      </div>
      <div className="my-1 flex items-center gap-2 text-[13px]">
        {several ? (
          <span className="figure text-soft">
            {t("web.circuits.phone.sections", { m: lengthText(circuit) || "?", n: circuit.run.length })}
          </span>
        ) : (
          <span className="flex items-center gap-2">
            {t("web.setup.calculated.length")}
            <TextBox
              className="figure w-20! text-[16px]"
              inputMode="decimal"
              aria-label={t("web.circuits.phone.length_label", { circuit: circuit.name })}
              value={lengthText(circuit)}
              onCommit={setLength}
            />
            m
          </span>
        )}
      </div>
      <div className="grid grid-cols-3 gap-1.5">
        {checksOf(rules, group).map((check) => {
          const finding = byCell.get(cellKey({ check: check.id, circuit: circuit.id }));
          return (
            <button
              key={check.id}
              type="button"
              className="relative rounded border border-line px-1.5 py-1 text-left"
              onClick={() => onCheck(check.id)}
            >
              <span aria-hidden="true" className="block text-[11px] text-soft">
                {check.short}
              </span>
              <CellContent circuit={circuit} title={check.title} finding={finding} />
            </button>
          );
        })}
      </div>
    </li>
  );
}
