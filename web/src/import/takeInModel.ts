import type { TableAnswer } from "../api/client";

export type Of = "circuits" | "prices";

/** For each column of the table the field it is taken for; "" where it is left out. */
export function fieldsByColumn({ table, mapping }: TableAnswer): string[] {
  const fields = table.heads.map(() => "");
  for (const [field, column] of Object.entries(mapping)) if (column < fields.length) fields[column] = field;
  return fields;
}

/** The mapping back from fields by column; a field that is chosen twice goes to the column chosen last. */
export function mappingOf(fields: readonly string[]): Record<string, number> {
  return Object.fromEntries(fields.flatMap((field, column) => (field ? [[field, column]] : [])));
}

/** A column taken for a field; whatever column had it before is left out then. */
export function chosen(fields: readonly string[], column: number, field: string): string[] {
  return fields.map((matched, at) => (at === column ? field : matched === field && field ? "" : matched));
}

/** Fields that are needed and that no column is taken for. */
export function lacking(answer: TableAnswer, fields: readonly string[]): string[] {
  return answer.fields.filter(({ id, needed }) => needed && !fields.includes(id)).map(({ title }) => title);
}

/** A clipboard's text as rows of cells, without the empty last line that spreadsheets add. */
export function pastedRows(text: string): string[][] {
  const lines = text.replace(/\r\n?/g, "\n").replace(/\n+$/, "").split("\n");
  return lines.map((line) => line.split("\t"));
}

/** Whether a pasted text is a table rather than one cell's text. */
export function isTable(text: string): boolean {
  const rows = pastedRows(text);
  return rows.length > 1 || (rows[0]?.length ?? 0) > 1;
}
