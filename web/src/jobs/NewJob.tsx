import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { NewJob as NewJobBody, RuleSetView } from "../api/client";
import { rulesListQuery, rulesQuery } from "../api/queries";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { Segments } from "../ui/Segments";
import { useBegin } from "./useBegin";

const STANDARD = "vivid-lattice.standard";
const EMPTY = "empty";
const EXISTING = "existing";
const TABLE = "table";
const FILE = "file";
/** What a starting point reads from a file. */
const READS: Record<string, string> = {
  [TABLE]: ".csv,.tsv,.txt,.xlsx,text/csv",
  [FILE]: "application/json,.json,application/zip,.zip",
};

/** The standard that was used last: most electricians work under one. */
const lastStandard = () => localStorage.getItem(STANDARD) ?? "uk";

/** Where a job begins: a title, a standard, a starting point, and the one question that nothing is assumed of. */
export function NewJob() {
  const { begin: onBegin, beginFrom, error } = useBegin();
  const standards = useQuery(rulesListQuery);
  const [standard, setStandard] = useState(lastStandard);
  const rules = useQuery(rulesQuery(standard)).data;
  const [title, setTitle] = useState("");
  const [start, setStart] = useState(EMPTY);
  const [system, setSystem] = useState("");
  const [file, setFile] = useState<File>();
  const home = rules?.homes.find((known) => known.id === start);
  const only = rules?.systems.length === 1 ? rules.systems[0]?.id : undefined;
  const answered = only ?? (rules?.systems.some((known) => known.id === system) ? system : "");
  const name = title.trim() || home?.title || "";
  const whole = start === FILE;
  const ready = whole ? Boolean(file) : Boolean(answered && name && (start !== TABLE || file));

  const begin = () => {
    if (whole && file) beginFrom(file);
    if (whole || !rules || !ready) return;
    localStorage.setItem(STANDARD, standard);
    const existing = start === EXISTING;
    onBegin(
      {
        title: name,
        rules: standard,
        system: answered as NewJobBody["system"],
        home: home?.id ?? null,
        existing,
        phases: null,
        demo: null,
      },
      existing ? "survey" : "circuits",
      start === TABLE ? file : undefined,
    );
  };

  return (
    <form
      aria-labelledby="new-job"
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        begin();
      }}
    >
      <h2 id="new-job" className="font-semibold">
        {t("web.jobs.new.title")}
      </h2>
      <input
        aria-label={t("web.jobs.new.name_label")}
        className="min-w-0 rounded-md border border-line bg-sheet px-2 py-1"
        placeholder={home?.title ?? t("web.jobs.new.name_placeholder")}
        maxLength={120}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <Choice
        label={t("web.jobs.new.standard")}
        value={standard}
        options={(standards.data ?? []).map((known) => ({ value: known.id, label: known.title }))}
        onCommit={setStandard}
      />
      <Choice
        label={t("web.jobs.new.start")}
        value={start}
        options={startingPoints(rules)}
        onCommit={(next) => {
          setStart(next);
          setFile(undefined);
        }}
      />
      {READS[start] && (
        <input
          key={start}
          type="file"
          accept={READS[start]}
          aria-label={t(whole ? "web.jobs.import.file" : "web.jobs.import.table")}
          className="w-full text-[13px] file:mr-2 file:rounded-md file:border file:border-line file:bg-sheet file:px-2.5 file:py-1"
          onChange={(event) => setFile(event.target.files?.[0])}
        />
      )}
      {rules && !only && !whole && (
        <div>
          <p className="mb-0.5 text-[12px] font-medium text-soft">{t("web.jobs.new.system")}</p>
          <Segments
            label={t("web.jobs.new.system")}
            options={rules.systems.map((known) => ({ id: known.id, title: known.id }))}
            value={answered}
            onChange={setSystem}
          />
          <p className="mt-0.5 min-h-9 text-[12px] text-soft">
            {rules.systems.find((known) => known.id === answered)?.title ?? t("web.jobs.new.system_hint")}
          </p>
        </div>
      )}
      <div className="flex items-center justify-between gap-2">
        <Link to="/standards" className="text-[12.5px] text-accent underline">
          {t("web.standards.title")}
        </Link>
        <Button type="submit" variant="strong" disabled={!ready}>
          {t("web.jobs.new.create")}
        </Button>
      </div>
      {error.length > 0 && (
        <ul role="alert" className="list-disc pl-5 text-[13px] text-fail">
          {error.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </form>
  );
}

function startingPoints(rules: RuleSetView | undefined) {
  return [
    { value: EMPTY, label: t("web.jobs.new.empty") },
    ...(rules?.homes ?? []).map((home) => ({
      value: home.id,
      label: t("web.jobs.new.home", { title: home.title, n: home.circuits }),
    })),
    { value: EXISTING, label: t("web.jobs.new.existing") },
    { value: TABLE, label: t("web.jobs.new.table") },
    { value: FILE, label: t("web.jobs.new.file") },
  ];
}
