import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Moon, Sun } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answered, client, type NewJob as NewJobBody } from "../api/client";
import { reasons } from "../api/lines";
import { demosQuery, jobsQuery } from "../api/queries";
import { beginFromFile } from "../job/beginFromFile";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Mark } from "../ui/Mark";
import { useTheme } from "../ui/theme";
import { Backup } from "./Backup";
import { NewJob } from "./NewJob";

/** All jobs: open one, begin one, take one in from a file. */
export function Jobs() {
  const jobs = useQuery(jobsQuery);
  const [theme, toggle] = useTheme();
  const [archived, setArchived] = useState(false);
  const shown = jobs.data?.filter((job) => archived || !job.archived) ?? [];
  const away = jobs.data?.filter((job) => job.archived).length ?? 0;
  return (
    <div className="h-full overflow-auto">
      <header className="flex items-center gap-3 border-b border-line bg-sheet px-4 py-2">
        <Mark />
        <span className="flex-1 font-semibold">Vivid Lattice</span>
        <Button
          variant="quiet"
          aria-label={theme === "light" ? t("web.jobs.theme_dark") : t("web.jobs.theme_light")}
          onClick={toggle}
        >
          {theme === "light" ? <Moon size={16} aria-hidden /> : <Sun size={16} aria-hidden />}
        </Button>
      </header>
      <main className="mx-auto grid max-w-5xl grid-cols-1 gap-8 p-6 max-sm:p-4 md:grid-cols-[minmax(0,1fr)_300px]">
        <section aria-labelledby="jobs-title">
          <h1 id="jobs-title" className="mb-3 text-xl font-semibold">
            {t("web.jobs.title")}
          </h1>
          {jobs.isPending && <p className="text-soft">{t("web.jobs.loading")}</p>}
          {jobs.error && (
            <p role="alert" className="text-fail">
              {jobs.error.message} <Button onClick={() => void jobs.refetch()}>{t("web.jobs.retry")}</Button>
            </p>
          )}
          {jobs.data && shown.length === 0 && <p className="text-soft">{t("web.jobs.empty")}</p>}
          <ul className="flex flex-col gap-2">
            {shown.map((job) => (
              <li
                key={job.id}
                className="flex items-center gap-3 rounded-xl border border-line bg-sheet px-4 py-3"
              >
                <div className="min-w-0 flex-1">
                  <Link
                    to={`/jobs/${job.id}/circuits`}
                    className="font-semibold hover:text-accent hover:underline"
                  >
                    {job.title}
                  </Link>
                  <p className="truncate text-[13px] text-soft">{job.site}</p>
                  <p className="figure text-[12px] text-soft">
                    {t("web.jobs.line", {
                      n: job.circuits,
                      revision: job.head,
                      when: new Date(job.saved_at).toLocaleString(),
                    })}
                  </p>
                </div>
                <ArchiveButton id={job.id} title={job.title} archived={job.archived} />
              </li>
            ))}
          </ul>
          {away > 0 && (
            <Button variant="quiet" className="mt-3" onClick={() => setArchived(!archived)}>
              {archived ? t("web.jobs.hide_archived") : t("web.jobs.show_archived", { n: away })}
            </Button>
          )}
        </section>
        <Begin />
      </main>
    </div>
  );
}

function ArchiveButton({ id, title, archived }: { id: string; title: string; archived: boolean }) {
  const queries = useQueryClient();
  const change = useMutation({
    mutationFn: () =>
      answered(
        client.POST("/api/jobs/{job_id}/archive", {
          params: { path: { job_id: id } },
          body: { archived: !archived },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
  return (
    <Button
      variant="quiet"
      aria-label={
        archived ? t("web.jobs.unarchive_label", { job: title }) : t("web.jobs.archive_label", { job: title })
      }
      onClick={() => change.mutate()}
    >
      {archived ? t("web.jobs.unarchive") : t("web.jobs.archive")}
    </Button>
  );
}

function Begin() {
  const demos = useQuery(demosQuery);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [error, setError] = useState<string[]>([]);
  const file = useRef<HTMLInputElement>(null);

  const open = async (begun: Promise<{ job_id: string }>, view: "circuits" | "survey") => {
    try {
      setError([]);
      const job = await begun;
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/jobs/${job.job_id}/${view}`);
    } catch (reason) {
      setError(reasons(reason));
    }
  };
  const begin = (body: NewJobBody) => answered(client.POST("/api/jobs", { body }));

  return (
    <aside className="flex flex-col gap-6">
      <NewJob onBegin={(body, view) => void open(begin(body), view)} />
      <section>
        <h2 className="mb-2 font-semibold">{t("web.jobs.import.title")}</h2>
        <input
          ref={file}
          type="file"
          accept="application/json,.json,application/zip,.zip"
          aria-label={t("web.jobs.import.file")}
          className="w-full text-[13px] file:mr-2 file:rounded-md file:border file:border-line file:bg-sheet file:px-2.5 file:py-1"
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            if (chosen) void open(beginFromFile(chosen), "circuits");
            event.target.value = "";
          }}
        />
        {error.length > 0 && (
          <ul role="alert" className="mt-2 list-disc pl-5 text-[13px] text-fail">
            {error.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
      </section>
      <Backup />
      <section>
        <h2 className="mb-2 font-semibold">{t("web.jobs.demo.title")}</h2>
        <ul className="flex flex-col gap-2">
          {demos.data?.map((demo) => (
            <li key={demo.name}>
              <button
                type="button"
                className="w-full rounded-lg border border-line bg-sheet px-3 py-2 text-left hover:border-accent"
                onClick={() =>
                  void open(
                    begin({ title: demo.title, demo: demo.name, rules: "uk", existing: false }),
                    "circuits",
                  )
                }
              >
                <b className="block text-[13px] font-semibold">{demo.title}</b>
                <span className="text-[12px] text-soft">
                  {t("web.jobs.demo_line", { rules: demo.rules, n: demo.circuits })}
                </span>
              </button>
            </li>
          ))}
        </ul>
      </section>
    </aside>
  );
}
