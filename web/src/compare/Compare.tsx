import { useQuery } from "@tanstack/react-query";
import { FileText } from "lucide-react";
import { useState } from "react";
import { answered, type Comparison, client, type Job } from "../api/client";
import { verdictWord } from "../circuits";
import { type State, useExport } from "../documents/useExport";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { against, useOtherVersions } from "./useOtherVersions";

/** The open job, or an earlier revision of it, beside another one or beside another job: what differs, and what that does. */
export function Compare() {
  const { jobId, document, version, rules } = useJob();
  const others = useOtherVersions();
  const [chosen, setChosen] = useState<string>();
  const [later, setLater] = useState("");
  const exporting = useExport();
  const value = chosen ?? others[0]?.value ?? "";
  const answer = useQuery({
    queryKey: ["compare", jobId, version, value, later],
    queryFn: async ({ signal }) => {
      const before = await variant(jobId, against(value));
      const after = later ? await variant(jobId, against(later)) : document;
      return answered(client.POST("/api/compare", { body: { before, after }, signal }));
    },
    enabled: Boolean(value),
  });
  const titles = new Map(
    [...rules.checks, ...rules.supply_checks, ...rules.board_checks].map((check) => [check.id, check.title]),
  );
  const sheet = () =>
    void exporting.save({
      kind: "comparison",
      title: t("web.compare.sheet_title"),
      against: against(value),
      of: later ? against(later) : undefined,
    });
  return (
    <main className="min-h-0 flex-1 overflow-auto px-4 py-4">
      <div className="mx-auto flex max-w-5xl flex-col gap-4">
        <div className="grid items-end gap-3 sm:grid-cols-[1fr_1fr_auto]">
          <Choice
            label={t("web.compare.before")}
            value={value}
            options={others.length ? others : [{ value: "", label: t("web.compare.before_none") }]}
            onCommit={setChosen}
          />
          <Choice
            label={t("web.compare.now")}
            value={later}
            options={[{ value: "", label: t("web.compare.now_current") }, ...others]}
            onCommit={setLater}
          />
          <Button disabled={!value || Boolean(exporting.progress)} onClick={sheet}>
            <FileText size={15} aria-hidden /> {t("web.compare.save")}
          </Button>
        </div>
        <p className="-mt-2 text-[12px] text-soft">{t("web.compare.text")}</p>
        {exporting.wrong.map((line) => (
          <p key={line} role="alert" className="text-fail">
            {line}
          </p>
        ))}
        {answer.error && <p className="text-fail">{answer.error.message}</p>}
        {answer.data && <Side comparison={answer.data} titles={titles} />}
      </div>
    </main>
  );
}

/** Better, worse, or there in one of the two only. */
const SIGN: Record<string, string> = { true: "▴ ", false: "▾ ", null: "· " };
const LOOK: Record<string, string> = {
  true: "figure font-semibold",
  false: "figure text-fail",
  null: "figure text-soft",
};

async function variant(jobId: string, state: State): Promise<Job> {
  if (state.job) {
    const other = await answered(
      client.GET("/api/jobs/{job_id}", { params: { path: { job_id: state.job } } }),
    );
    return other.job;
  }
  const old = await answered(
    client.GET("/api/jobs/{job_id}/revisions/{number}", {
      params: { path: { job_id: jobId, number: state.revision ?? 1 } },
    }),
  );
  return old.job;
}

function Side({ comparison, titles }: { comparison: Comparison; titles: ReadonlyMap<string, string> }) {
  const order = ["fail", "missing", "advice", "tight", "pass"];
  return (
    <>
      <section aria-label={t("web.compare.counts")} className="rounded-xl border border-line bg-sheet p-4">
        <h2 className="mb-2 font-semibold">{t("web.compare.counts_title")}</h2>
        <table className="figure text-[13px]">
          <thead>
            <tr>
              <th />
              {order.map((verdict) => (
                <th key={verdict} scope="col" className="px-3 text-right font-sans font-medium text-soft">
                  {verdictWord(verdict as "fail")}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {(
              [
                [t("web.compare.row_before"), comparison.counts_before],
                [t("web.compare.row_after"), comparison.counts_after],
              ] as const
            ).map(([name, counts]) => (
              <tr key={name} className="border-t border-line">
                <th scope="row" className="pr-4 text-left font-sans font-medium">
                  {name}
                </th>
                {order.map((verdict) => (
                  <td key={verdict} className="px-3 text-right">
                    {counts[verdict] ?? 0}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section aria-label={t("web.compare.turned")} className="rounded-xl border border-line bg-sheet p-4">
        <h2 className="mb-2 font-semibold">{t("web.compare.turned")}</h2>
        {comparison.changed.length === 0 && <p className="text-soft">{t("web.compare.turned_none")}</p>}
        <ul className="flex flex-col">
          {comparison.changed.map((change) => (
            <li
              key={`${change.check} ${change.subject.id}`}
              className="grid gap-x-4 border-t border-line py-1.5 text-[13px] sm:grid-cols-[1fr_10rem_11rem_11rem]"
            >
              <b className="font-medium">{change.name}</b>
              <span className="text-soft">{titles.get(change.check) ?? change.check}</span>
              <span className="figure">
                {change.before ? verdictWord(change.before) : t("web.compare.not_there")}{" "}
                {change.figure_before}
              </span>
              <span className={LOOK[String(change.better)]}>
                {SIGN[String(change.better)]}
                {change.after ? verdictWord(change.after) : t("web.compare.not_there")} {change.figure_after}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label={t("web.compare.differs")} className="rounded-xl border border-line bg-sheet p-4">
        <h2 className="mb-2 font-semibold">{t("web.compare.differs")}</h2>
        {comparison.text.length === 0 && <p className="text-soft">{t("web.compare.differs_none")}</p>}
        <ul className="list-disc pl-5 text-[13px]">
          {comparison.text.map((difference) => (
            <li key={say(difference)}>{say(difference)}</li>
          ))}
        </ul>
      </section>
    </>
  );
}
