import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, type Comparison, client, type Job } from "../api/client";
import { historyQuery, jobsQuery } from "../api/queries";
import { useJob } from "../job/JobProvider";
import { verdictWord } from "../lattice";
import { Choice } from "../ui/Field";

/** The open job beside an earlier revision of it, or beside another job: what differs, and what that does. */
export function Variants() {
  const { jobId, document, version, revision, rules } = useJob();
  const history = useQuery(historyQuery(jobId, revision.number));
  const jobs = useQuery(jobsQuery);
  const [chosen, setChosen] = useState<string>();
  const earlier = (history.data ?? []).filter((line) => line.number !== revision.number);
  const others = (jobs.data ?? []).filter((job) => job.id !== jobId);
  const options = [
    ...earlier.map((line) => ({ value: `r${line.number}`, label: `Revision ${line.number}: ${line.words}` })),
    ...others.map((job) => ({ value: `j${job.id}`, label: `Job: ${job.title}` })),
  ];
  const value = chosen ?? options[0]?.value ?? "";
  const found = useQuery({
    queryKey: ["compare", jobId, version, value],
    queryFn: async ({ signal }) => {
      const before = await variant(jobId, value);
      return answered(client.POST("/api/compare", { body: { before, after: document }, signal }));
    },
    enabled: Boolean(value),
  });
  const titles = new Map(
    [...rules.checks, ...rules.supply_checks, ...rules.board_checks].map((check) => [check.id, check.title]),
  );
  return (
    <main className="min-h-0 flex-1 overflow-auto px-4 py-4">
      <div className="mx-auto flex max-w-5xl flex-col gap-4">
        <div className="max-w-xl">
          <Choice
            label="The job as it stands, beside"
            value={value}
            options={options.length ? options : [{ value: "", label: "nothing yet: change something first" }]}
            onCommit={setChosen}
            hint="Every kept revision is a variant: try something, look here, and undo it if it does not serve."
          />
        </div>
        {found.error && <p className="text-fail">{found.error.message}</p>}
        {found.data && <Side comparison={found.data} titles={titles} />}
      </div>
    </main>
  );
}

async function variant(jobId: string, value: string): Promise<Job> {
  if (value.startsWith("j")) {
    const other = await answered(
      client.GET("/api/jobs/{job_id}", { params: { path: { job_id: value.slice(1) } } }),
    );
    return other.job;
  }
  const old = await answered(
    client.GET("/api/jobs/{job_id}/revisions/{number}", {
      params: { path: { job_id: jobId, number: Number(value.slice(1)) } },
    }),
  );
  return old.job;
}

function Side({ comparison, titles }: { comparison: Comparison; titles: ReadonlyMap<string, string> }) {
  const order = ["fail", "missing", "advice", "tight", "pass"];
  return (
    <>
      <section aria-label="In figures" className="rounded-xl border border-line bg-sheet p-4">
        <h2 className="mb-2 font-semibold">Findings, before and now</h2>
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
                ["before", comparison.counts_before],
                ["now", comparison.counts_after],
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
      <section aria-label="What turned" className="rounded-xl border border-line bg-sheet p-4">
        <h2 className="mb-2 font-semibold">What turned</h2>
        {comparison.turned.length === 0 && <p className="text-soft">No finding answers otherwise.</p>}
        <ul className="flex flex-col">
          {comparison.turned.map((one) => (
            <li
              key={`${one.check} ${one.subject.id}`}
              className="grid gap-x-4 border-t border-line py-1.5 text-[13px] sm:grid-cols-[1fr_10rem_11rem_11rem]"
            >
              <b className="font-medium">{one.name}</b>
              <span className="text-soft">{titles.get(one.check) ?? one.check}</span>
              <span className="figure">
                {one.before ? verdictWord(one.before) : "not there"} {one.figure_before}
              </span>
              <span className={one.better ? "figure font-semibold" : "figure text-fail"}>
                {one.better ? "▴ " : "▾ "}
                {one.after ? verdictWord(one.after) : "not there"} {one.figure_after}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="What differs" className="rounded-xl border border-line bg-sheet p-4">
        <h2 className="mb-2 font-semibold">What differs</h2>
        {comparison.words.length === 0 && <p className="text-soft">Nothing.</p>}
        <ul className="list-disc pl-5 text-[13px]">
          {comparison.words.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      </section>
    </>
  );
}
