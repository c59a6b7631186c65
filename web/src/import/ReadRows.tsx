import { say, type Text } from "../messages/say";
import { t } from "../messages/text";

type Row = {
  number: number;
  name: string;
  text: Text;
  problems: { field: string; message: Text }[];
  assumed?: Text[];
};

/** Row by row what it becomes, what was assumed for it, or why it is left out; those left out first. */
export function ReadRows({ rows }: { rows: Row[] }) {
  const sorted = [
    ...rows.filter((row) => row.problems.length),
    ...rows.filter((row) => !row.problems.length),
  ];
  return (
    <ol
      aria-label={t("web.import.rows")}
      className="mt-3 max-h-[38vh] overflow-auto rounded-lg border border-line text-[13px]"
    >
      {sorted.map((row) => (
        <li
          key={row.number}
          data-row-left-out={row.problems.length > 0}
          className="grid grid-cols-[3.2rem_1fr] gap-2 border-t border-line px-2 py-1 first:border-t-0"
        >
          <span className="figure text-soft">{t("web.import.row", { n: row.number })}</span>
          <span>
            <b className="font-medium">{row.name || t("web.import.no_name")}</b>{" "}
            {row.problems.length === 0 ? (
              <span>{say(row.text)}</span>
            ) : (
              <span className="font-medium text-fail">{t("web.import.skipped")}</span>
            )}
            {row.problems.map((problem) => (
              <span key={`${problem.field} ${say(problem.message)}`} className="block text-fail">
                {problem.field}: {say(problem.message)}
              </span>
            ))}
            {row.problems.length === 0 && row.assumed && row.assumed.length > 0 && (
              <span className="block text-[12px] text-soft">
                {t("web.import.assumed", { list: row.assumed.map(say).join("; ") })}
              </span>
            )}
          </span>
        </li>
      ))}
    </ol>
  );
}
