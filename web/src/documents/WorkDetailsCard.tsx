import type { WorkDetails } from "../api/client";
import { useJob } from "../job/JobContext";
import { Choice, Field, TextBox } from "../ui/Field";

const LINES: { field: Exclude<keyof WorkDetails, "work">; label: string }[] = [
  { field: "contractor", label: "Electrician" },
  { field: "contractor_phone", label: "Telephone" },
  { field: "distributor", label: "Distributor" },
  { field: "distributor_phone", label: "Its emergency line" },
];

/** What kind of work it is, who does it, and whom the client calls: what the papers say beside the design. */
export function WorkDetailsCard() {
  const { document, edit, rules } = useJob();
  const details = document.work_details as WorkDetails | undefined;
  const needed = rules.works.find((work) => work.id === details?.kind);
  const set = (part: Partial<WorkDetails>) =>
    edit({ ...document, work_details: { ...details, ...part } as WorkDetails });
  return (
    <section aria-label="The work" className="rounded-xl border border-line bg-sheet p-4">
      <h2 className="mb-2 font-semibold">The work</h2>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-2">
        <Choice
          label="Kind of work"
          value={details?.kind ?? ""}
          options={[
            { value: "", label: "not said yet" },
            ...rules.works.map(({ id, title }) => ({ value: id, label: title })),
          ]}
          hint={needed?.certificate ?? "Which certificate and notice it needs goes by this."}
          onCommit={(kind) => set({ kind: (kind || null) as WorkDetails["kind"] })}
        />
        <Field label="Client">
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
