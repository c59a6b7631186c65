import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { differencesQuery } from "../api/queries";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Check } from "../ui/Check";
import { cx } from "../ui/cx";
import { Mark } from "../ui/Mark";

/** Every standard's answer to the same questions, side by side; made from the tables in use. */
export function Standards() {
  const answer = useQuery(differencesQuery);
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const [apart, setApart] = useState(false);
  const data = answer.data;
  const shown = (data?.standards ?? []).map((id, at) => ({ id, at })).filter(({ id }) => !hidden.has(id));
  const groups = [...new Set(data?.rows.map((row) => row.group))];
  const differs = (answers: string[]) => new Set(shown.map(({ at }) => answers[at])).size > 1;
  return (
    <div className="flex h-full flex-col">
      <header className="flex items-center gap-3 border-b border-line bg-sheet px-4 py-2">
        <Link to="/" className="flex items-center gap-2 font-semibold">
          <Mark /> Vivid Lattice
        </Link>
        <h1 className="flex-1 text-right text-[13px] font-medium">{t("web.standards.title")}</h1>
      </header>
      <main className="min-h-0 flex-1 overflow-auto p-4">
        <div className="mb-3 flex flex-wrap items-center gap-2">
          {data?.standards.map((id, at) => (
            <Button
              key={id}
              aria-pressed={!hidden.has(id)}
              className="aria-pressed:border-accent aria-pressed:bg-wash"
              onClick={() => {
                const next = new Set(hidden);
                if (!next.delete(id)) next.add(id);
                setHidden(next);
              }}
            >
              {data.titles[at]?.split(",")[0]}
            </Button>
          ))}
          <Check
            className="ml-auto flex items-center gap-2 text-[13px]"
            checked={apart}
            onChange={(checked) => setApart(checked)}
          >
            {t("web.standards.only_differing")}
          </Check>
        </div>
        {answer.isPending && <p className="text-soft">{t("web.standards.loading")}</p>}
        {answer.error && <p className="text-fail">{answer.error.message}</p>}
        {data && (
          <table className="w-full table-fixed border-collapse text-[12.5px]">
            <thead className="sticky top-0 z-10 bg-ground">
              <tr>
                <th className="w-40 p-1.5 text-left font-semibold">{t("web.standards.question")}</th>
                {shown.map(({ id, at }) => (
                  <th key={id} scope="col" className="p-1.5 text-left font-semibold">
                    {data.titles[at]}
                  </th>
                ))}
              </tr>
            </thead>
            {groups.map((group) => (
              <tbody key={group}>
                <tr>
                  <th
                    scope="colgroup"
                    colSpan={shown.length + 1}
                    className="bg-line/40 px-1.5 py-0.5 text-left font-semibold"
                  >
                    {group}
                  </th>
                </tr>
                {data.rows
                  .filter((row) => row.group === group && (!apart || differs(row.answers)))
                  .map((row) => (
                    <tr key={row.question} className="border-t border-line align-top">
                      <th scope="row" className="p-1.5 text-left font-medium text-soft">
                        {row.question}
                      </th>
                      {shown.map(({ id, at }) => (
                        <td
                          key={id}
                          className={cx("p-1.5 break-words", row.answers[at] === "–" && "text-missing")}
                        >
                          {row.answers[at]}
                        </td>
                      ))}
                    </tr>
                  ))}
              </tbody>
            ))}
          </table>
        )}
      </main>
    </div>
  );
}
