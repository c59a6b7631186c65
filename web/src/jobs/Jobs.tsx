import { useQuery } from "@tanstack/react-query";
import { Moon, Sun } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { demosQuery, jobsQuery } from "../api/queries";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Mark } from "../ui/Mark";
import { useTheme } from "../ui/theme";
import { Backup } from "./Backup";
import { JobCard } from "./JobCard";
import { found } from "./jobsModel";
import { NewJob } from "./NewJob";
import { PairPhone } from "./PairPhone";
import { useBegin } from "./useBegin";

/** All jobs: search them, open one, begin one; demo jobs apart. */
export function Jobs() {
  const [theme, toggle] = useTheme();
  const { begin, error } = useBegin();
  return (
    <div className="h-full overflow-auto">
      <header className="flex items-center gap-3 border-b border-line bg-sheet px-4 py-2">
        <Mark />
        <span className="flex-1 font-semibold">Vivid Lattice</span>
        <Link to="/training" className="text-[13px] font-medium text-accent">
          {t("web.training.title")}
        </Link>
        <PairPhone />
        <Button
          variant="quiet"
          aria-label={theme === "light" ? t("web.jobs.theme_dark") : t("web.jobs.theme_light")}
          onClick={toggle}
        >
          {theme === "light" ? <Moon size={16} aria-hidden /> : <Sun size={16} aria-hidden />}
        </Button>
      </header>
      <main className="mx-auto grid max-w-6xl grid-cols-1 gap-8 p-6 max-sm:p-4 md:grid-cols-[minmax(0,1fr)_320px]">
        <div className="flex min-w-0 flex-col gap-8">
          <OwnJobs />
          <DemoJobs onOpen={(demo, title) => begin({ title, demo, rules: "uk", existing: false })} />
        </div>
        <aside className="flex flex-col gap-6 max-md:-order-1">
          <NewJob />
          {error.length > 0 && (
            <ul role="alert" className="list-disc pl-5 text-[13px] text-fail">
              {error.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          )}
          <Backup />
        </aside>
      </main>
    </div>
  );
}

function OwnJobs() {
  const jobs = useQuery(jobsQuery);
  const [archived, setArchived] = useState(false);
  const [search, setSearch] = useState("");
  // A demo that is archived is among one's own: it may have been worked on, and the demo is offered again.
  const own = jobs.data?.filter((job) => !job.demo || job.archived) ?? [];
  const shown = own.filter((job) => (archived || !job.archived) && found(job, search));
  const away = own.filter((job) => job.archived).length;
  return (
    <section aria-labelledby="jobs-title">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <h1 id="jobs-title" className="text-xl font-semibold">
          {t("web.jobs.title")}
        </h1>
        {own.length > 0 && (
          <input
            type="search"
            aria-label={t("web.jobs.search")}
            placeholder={t("web.jobs.search")}
            className="w-56 rounded-md border border-line bg-sheet px-2 py-1 text-[13px]"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
        )}
      </div>
      {jobs.isPending && <p className="text-soft">{t("web.jobs.loading")}</p>}
      {jobs.error && (
        <p role="alert" className="text-fail">
          {jobs.error.message} <Button onClick={() => void jobs.refetch()}>{t("web.jobs.retry")}</Button>
        </p>
      )}
      {jobs.data && shown.length === 0 && (
        <p className="text-soft">
          {search ? t("web.jobs.none_found", { text: search }) : t("web.jobs.empty")}
        </p>
      )}
      <ul className="flex flex-col gap-2">
        {shown.map((job) => (
          <JobCard key={job.id} job={job} />
        ))}
      </ul>
      {away > 0 && (
        <Button variant="quiet" className="mt-3" onClick={() => setArchived(!archived)}>
          {archived ? t("web.jobs.hide_archived") : t("web.jobs.show_archived", { n: away })}
        </Button>
      )}
    </section>
  );
}

/** Every demo once: opened before, with its status; else to be opened. */
function DemoJobs({ onOpen }: { onOpen: (demo: string, title: string) => void }) {
  const demos = useQuery(demosQuery);
  const opened = useQuery(jobsQuery).data?.filter((job) => job.demo && !job.archived) ?? [];
  const rest = demos.data?.filter((demo) => !opened.some((job) => job.demo === demo.name)) ?? [];
  return (
    <section aria-labelledby="demos-title">
      <h2 id="demos-title" className="font-semibold">
        {t("web.jobs.demo.title")}
      </h2>
      <p className="mb-2 text-[12.5px] text-soft">{t("web.jobs.demo.text")}</p>
      <ul className="flex flex-col gap-2">
        {opened.map((job) => (
          <JobCard key={job.id} job={job} />
        ))}
        {rest.map((demo) => (
          <li key={demo.name}>
            <button
              type="button"
              className="w-full rounded-xl border border-dashed border-line px-4 py-2 text-left hover:border-accent"
              onClick={() => onOpen(demo.name, demo.title)}
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
  );
}
