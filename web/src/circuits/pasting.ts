import type { Circuit, RuleSetView } from "../api/client";
import { t } from "../messages/text";
import type { Edit } from "./gridModel";
import { typed } from "./typing";

/** What pasting came to: the changed circuits, or the first cell that cannot be. */
type Pasted = { circuits: Circuit[]; cells: number } | { error: string };

/**
 * Cells from a spreadsheet put over the columns `edits` of the circuits from the cursor downwards, each as if it were typed.
 * All of them or none: a table that does not fit, or a cell that cannot be, changes nothing. An empty cell is left as it was.
 */
export function pasted(
  circuits: readonly Circuit[],
  edits: readonly Edit[],
  rows: readonly (readonly string[])[],
  rules: RuleSetView,
  planned: (circuit: Circuit) => boolean = () => false,
): Pasted {
  const widest = Math.max(...rows.map((row) => row.length));
  if (rows.length > circuits.length)
    return { error: t("web.circuits.paste.too_many_rows", { rows: rows.length, n: circuits.length }) };
  if (widest > edits.length)
    return { error: t("web.circuits.paste.too_many_columns", { columns: widest, n: edits.length }) };
  const changed: Circuit[] = [];
  let cells = 0;
  for (const [at, row] of rows.entries()) {
    let circuit = circuits[at] as Circuit;
    for (const [column, text] of row.entries()) {
      const which = edits[column];
      if (!which || !text.trim()) continue;
      const result = typed(circuit, which, text, rules, planned(circuit));
      if ("error" in result) return { error: `Row ${at + 1}, ${circuit.name}: ${result.error}` };
      circuit = result.circuit;
      cells += 1;
    }
    if (circuit !== circuits[at]) changed.push(circuit);
  }
  return { circuits: changed, cells };
}
