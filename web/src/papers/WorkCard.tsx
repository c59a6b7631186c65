import type { Paperwork } from "../api/client";
import { useJob } from "../job/JobProvider";
import { Choice, Field, TextBox } from "../ui/Field";

const WORKS: { value: string; label: string }[] = [
  { value: "", label: "not said yet" },
  { value: "new-installation", label: "new installation" },
  { value: "board-replaced", label: "board replaced" },
  { value: "new-circuit", label: "new circuit" },
  { value: "alteration", label: "addition or alteration" },
  { value: "inspection", label: "inspection of what is there" },
];

const LINES: { field: Exclude<keyof Paperwork, "work">; label: string }[] = [
  { field: "contractor", label: "Electrician" },
  { field: "contractor_phone", label: "Telephone" },
  { field: "distributor", label: "Distributor" },
  { field: "distributor_phone", label: "Its emergency line" },
];

/** What kind of work it is, who does it, and whom the client calls: what the papers say beside the design. */
export function WorkCard() {
  const { document, edit } = useJob();
  const held = document.paperwork as Paperwork | undefined;
  const set = (part: Partial<Paperwork>) =>
    edit({ ...document, paperwork: { ...held, ...part } as Paperwork });
  return (
    <section aria-label="The work" className="rounded-xl border border-line bg-sheet p-4">
      <h2 className="mb-2 font-semibold">The work</h2>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-2">
        <Choice
          label="Kind of work"
          value={held?.work ?? ""}
          options={WORKS}
          hint="Which certificate and notice it needs goes by this; every sheet says."
          onCommit={(work) => set({ work: (work || null) as Paperwork["work"] })}
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
                value={held?.[field] ?? ""}
                onCommit={(text) => set({ [field]: text })}
              />
            )}
          </Field>
        ))}
      </div>
    </section>
  );
}
