import type { TableAnswer } from "../api/client";
import { t } from "../messages/text";
import { Select } from "../ui/Select";
import { chosen } from "./takeInModel";

type Props = { answer: TableAnswer; fields: readonly string[]; onFields: (fields: string[]) => void };

/** Each column of the table with what it is taken for, and its first few cells. */
export function ColumnMatching({ answer, fields, onFields }: Props) {
  const { table } = answer;
  return (
    <section aria-label={t("web.import.columns")} className="overflow-x-auto">
      <table className="text-[12.5px]">
        <thead>
          <tr>
            {table.heads.map((head, column) => (
              <th key={column} scope="col" className="px-1.5 pb-1 text-left align-bottom font-medium">
                <span className="block max-w-36 truncate" title={head}>
                  {head || t("web.import.no_head")}
                </span>
                <Select
                  aria-label={t("web.import.column", { name: head || column + 1 })}
                  className="mt-0.5 w-36 px-1 py-0.5"
                  value={fields[column] ?? ""}
                  options={[
                    { value: "", label: t("web.import.skip") },
                    ...answer.fields.map((field) => ({ value: field.id, label: field.title })),
                  ]}
                  onCommit={(field) => onFields(chosen(fields, column, field))}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.slice(0, 2).map((row, at) => (
            <tr key={at} className="border-t border-line text-soft">
              {row.map((cell, column) => (
                <td key={column} className="max-w-36 truncate px-1.5 py-0.5">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
