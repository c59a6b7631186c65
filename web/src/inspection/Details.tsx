import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { Button } from "../ui/Button";
import { Field, FigureField, TextBox } from "../ui/Field";
import { type Inspection, withInspection } from "./inspectionModel";

/** Extent, sampling, limitations, departures and comments of the certificate or report. */
export function Details() {
  const { document, edit } = useJob();
  const inspection = document.inspection;
  const put = (part: Partial<Inspection>) => edit(withInspection(document, part));
  const line = (key: "reason" | "extent" | "sample" | "comments", label: Key, most = 1000) => (
    <Field label={t(label)}>
      {(id) => (
        <TextBox
          id={id}
          value={inspection?.[key] ?? ""}
          maxLength={most}
          onCommit={(text) => put({ [key]: text })}
        />
      )}
    </Field>
  );
  return (
    <section aria-label={t("web.inspection.details")} className="flex flex-col gap-3">
      <h2 className="text-[14px] font-semibold">{t("web.inspection.details")}</h2>
      <div className="grid gap-3 sm:grid-cols-2">
        {line("extent", "web.inspection.extent")}
        {line("reason", "web.inspection.reason", 120)}
        <div className="grid grid-cols-[7rem_1fr] gap-2">
          <FigureField
            label={t("web.inspection.sample")}
            unit="%"
            value={inspection?.sample_pct}
            onCommit={(sample_pct) => (sample_pct === null || sample_pct <= 100) && put({ sample_pct })}
          />
          {line("sample", "web.inspection.sample_text")}
        </div>
        {line("comments", "web.inspection.comments")}
      </div>
      <Rows
        title="web.inspection.limitations"
        add="web.inspection.add_limitation"
        rows={inspection?.limitations ?? []}
        fields={[
          ["text", "web.inspection.limitation"],
          ["reason", "web.inspection.why"],
          ["agreed_with", "web.inspection.agreed_with"],
        ]}
        blank={{ text: "", reason: "", agreed_with: "" }}
        onChange={(limitations) => put({ limitations })}
      />
      <Rows
        title="web.inspection.departures"
        add="web.inspection.add_departure"
        rows={inspection?.departures ?? []}
        fields={[
          ["clause", "web.inspection.clause"],
          ["text", "web.inspection.departure"],
          ["reason", "web.inspection.why_safe"],
        ]}
        blank={{ clause: "", text: "", reason: "" }}
        onChange={(departures) => put({ departures })}
      />
    </section>
  );
}

/** A list of lines of a few words each; one is deleted by its button, and a new one begins empty. */
function Rows<Row extends object>({
  title,
  add,
  rows,
  fields,
  blank,
  onChange,
}: {
  title: Key;
  add: Key;
  rows: Row[];
  fields: readonly (readonly [keyof Row & string, Key])[];
  blank: Row;
  onChange: (rows: Row[]) => void;
}) {
  const set = (at: number, part: Partial<Row>) =>
    onChange(rows.map((row, index) => (index === at ? { ...row, ...part } : row)));
  return (
    <div>
      <h3 className="text-[13px] font-semibold">{t(title)}</h3>
      {rows.map((row, at) => (
        <div
          key={at}
          className="grid items-end gap-2 border-b border-line/60 py-1 sm:grid-cols-[1fr_1fr_1fr_auto]"
        >
          {fields.map(([key, label]) => (
            <Field key={key} label={t(label)}>
              {(id) => (
                <TextBox
                  id={id}
                  value={String(row[key] ?? "")}
                  maxLength={key === "agreed_with" || key === "clause" ? 120 : 1000}
                  onCommit={(text) => set(at, { [key]: text } as unknown as Partial<Row>)}
                />
              )}
            </Field>
          ))}
          <Button variant="quiet" onClick={() => onChange(rows.filter((_, index) => index !== at))}>
            {t("web.inspection.delete")}
          </Button>
        </div>
      ))}
      <Button className="mt-1" variant="quiet" onClick={() => onChange([...rows, blank])}>
        {t(add)}
      </Button>
    </div>
  );
}
