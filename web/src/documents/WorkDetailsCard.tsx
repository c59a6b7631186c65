import type { Job, WorkDetails } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Choice, Field, TextBox } from "../ui/Field";

const LINES: { field: Exclude<keyof WorkDetails, "work">; label: string }[] = [
  {
    field: "contractor",
    get label() {
      return t("web.documents.work.contractor");
    },
  },
  {
    field: "contractor_phone",
    get label() {
      return t("web.documents.work.contractor_phone");
    },
  },
  {
    field: "distributor",
    get label() {
      return t("web.documents.work.distributor");
    },
  },
  {
    field: "distributor_phone",
    get label() {
      return t("web.documents.work.distributor_phone");
    },
  },
];

/** What kind of work it is, who does it, and whom the client calls: what the papers say beside the design. */
export function WorkDetailsCard() {
  const { document, edit, rules } = useJob();
  const details = document.work_details as WorkDetails | undefined;
  const needed = rules.works.find((work) => work.id === details?.kind);
  const set = (part: Partial<WorkDetails>) =>
    edit({ ...document, work_details: { ...details, ...part } as WorkDetails });
  return (
    <section
      aria-label={t("web.documents.work.section")}
      className="rounded-xl border border-line bg-sheet p-4"
    >
      <h2 className="mb-2 font-semibold">{t("web.documents.work.section")}</h2>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-2">
        <Choice
          label={t("web.documents.work.kind")}
          value={details?.kind ?? ""}
          options={[
            { value: "", label: t("web.documents.work.kind_unknown") },
            ...rules.works.map(({ id, title }) => ({ value: id, label: say(title) })),
          ]}
          hint={needed?.certificate ?? t("web.documents.work.kind_hint")}
          onCommit={(kind) => set({ kind: (kind || null) as WorkDetails["kind"] })}
        />
        <Choice
          label={t("web.documents.work.language")}
          value={document.settings?.language ?? "en"}
          options={[
            { value: "en", label: "English" },
            { value: "de", label: "Deutsch" },
          ]}
          onCommit={(language) =>
            edit({
              ...document,
              settings: { ...document.settings, language: language as "en" | "de" } as Job["settings"],
            })
          }
        />
        <Field label={t("web.documents.work.client")}>
          {(id) => (
            <TextBox
              id={id}
              maxLength={120}
              value={document.job.client ?? ""}
              onCommit={(client) => edit({ ...document, job: { ...document.job, client } })}
            />
          )}
        </Field>
        {LINES.map(({ field, label }) => (
          <Field key={field} label={label}>
            {(id) => (
              <TextBox
                id={id}
                maxLength={120}
                value={details?.[field] ?? ""}
                onCommit={(text) => set({ [field]: text })}
              />
            )}
          </Field>
        ))}
      </div>
    </section>
  );
}
