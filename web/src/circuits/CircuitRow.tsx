import { memo } from "react";
import type { Circuit, RuleSetView } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { CheckCell, FIGURE } from "./CheckCell";
import { type CheckGroup, checksOf, otherGroup, worstTrouble } from "./checkGroups";
import { EditCell } from "./EditCell";
import type { Spot } from "./gridKeys";
import { type Edit, editText, type RowFindings, VERDICT_MARKS } from "./gridModel";

/** A sign beside the name where a check of the group that is not shown is in trouble for this circuit. */
function OtherGroupMark({ rules, group, findings }: Pick<Props, "rules" | "group" | "findings">) {
  const other = otherGroup(group);
  const cells = checksOf(rules, other).map((check) => findings?.get(check.id));
  const trouble = worstTrouble(cells);
  if (!trouble || trouble.verdict === "advice") return null;
  const first = cells.find((finding) => finding?.verdict === trouble.verdict);
  return (
    <span
      role="img"
      className={cx("ml-auto shrink-0 text-[11px]", FIGURE[trouble.verdict])}
      title={t("web.circuits.row.other_group", { sentence: first ? say(first.sentence) : "" })}
      aria-label={t("web.circuits.row.other_group_label", { sentence: first ? say(first.sentence) : "" })}
    >
      {VERDICT_MARKS[trouble.verdict]}
    </span>
  );
}

export type RowActions = {
  put: (spot: Spot) => void;
  begin: (spot: Spot, text: string) => void;
  commit: (spot: Spot, text: string, move: "down" | "right" | "none") => void;
  cancel: (spot: Spot) => void;
  open: (circuit: string) => void;
  light: (circuit: string | undefined) => void;
};

type Props = {
  circuit: Circuit;
  way: number;
  at: number;
  rules: RuleSetView;
  edits: readonly Edit[];
  group: CheckGroup;
  findings: RowFindings | undefined;
  cpc: string | undefined;
  column: number | undefined;
  crossedColumn: number;
  editing: string | undefined;
  lit: boolean;
  actions: RowActions;
};

/** A circuit: its name, what can be typed over, and its crossing with every check. */
export const CircuitRow = memo(function CircuitRow(props: Props) {
  const {
    circuit,
    way,
    at,
    rules,
    edits,
    group,
    findings,
    cpc,
    column,
    crossedColumn,
    editing,
    lit,
    actions,
  } = props;
  const here = column !== undefined;
  const crossed = (index: number) => here || crossedColumn === index;
  return (
    <div
      role="row"
      aria-label={circuit.name}
      className={cx("grid min-h-0 border-t border-line", lit && "bg-wash")}
      style={{ gridTemplateColumns: "subgrid", gridColumn: "1 / -1" }}
      onMouseEnter={() => actions.light(circuit.id)}
      onMouseLeave={() => actions.light(undefined)}
    >
      <div
        role="gridcell"
        tabIndex={column === 0 ? 0 : -1}
        aria-selected={column === 0}
        data-row={at}
        data-column={0}
        onClick={() => actions.put({ row: at, column: 0 })}
        onDoubleClick={() => actions.open(circuit.id)}
        onKeyDown={() => undefined}
        className={cx(
          "flex min-w-0 items-center gap-2 pl-1 pr-1.5",
          here && "bg-wash/60",
          column === 0 && "relative z-10 bg-sheet outline-2 outline-accent",
        )}
      >
        <span className="figure w-5 shrink-0 text-right text-[12px] text-soft">{way}</span>
        <span className="truncate text-[13px] font-medium" title={circuit.name}>
          {circuit.name}
        </span>
        <OtherGroupMark rules={rules} group={group} findings={findings} />
      </div>
      {edits.map((edit, index) => (
        <EditCell
          key={edit}
          circuit={circuit}
          edit={edit}
          text={editText(circuit, edit, rules)}
          suffix={edit === "cable" && cpc ? `/${cpc}` : undefined}
          chosen={column === index + 1}
          crossed={crossed(index + 1)}
          editing={column === index + 1 ? editing : undefined}
          row={at}
          column={index + 1}
          onChoose={() => actions.put({ row: at, column: index + 1 })}
          onBegin={(text) => actions.begin({ row: at, column: index + 1 }, text)}
          onCommit={(text, move) => actions.commit({ row: at, column: index + 1 }, text, move)}
          onCancel={() => actions.cancel({ row: at, column: index + 1 })}
        />
      ))}
      {checksOf(rules, group).map((check, index) => {
        const column_ = index + 1 + edits.length;
        return (
          <CheckCell
            key={check.id}
            circuit={circuit}
            title={check.title}
            finding={findings?.get(check.id)}
            chosen={column === column_}
            crossed={crossed(column_)}
            onChoose={() => actions.put({ row: at, column: column_ })}
            row={at}
            column={column_}
          />
        );
      })}
    </div>
  );
});
