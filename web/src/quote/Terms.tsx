import type { QuoteTerms } from "../api/client";
import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { Button } from "../ui/Button";
import { CheckBox } from "../ui/CheckBox";
import { Field, FigureField, readFigure, TextBox } from "../ui/Field";
import { OPTIONS, type Option } from "./options";

/** What the quote is made by: rate, markup, overhead, tax, how long it is valid, what else is priced beside it, and work of its own. */
export function Terms() {
  const { document, edit } = useJob();
  const terms = (document.quote ?? {}) as QuoteTerms;
  const set = (change: Partial<QuoteTerms>) => edit({ ...document, quote: { ...terms, ...change } });
  const options = terms.options ?? [];
  const figure = (label: Key, unit: string, name: keyof QuoteTerms, required = false) => (
    <FigureField
      label={t(label)}
      unit={unit}
      required={required}
      value={terms[name] as number | null | undefined}
      onCommit={(value) => set({ [name]: value } as Partial<QuoteTerms>)}
    />
  );
  return (
    <section aria-label={t("web.quote.terms")} className="mt-4">
      <h2 className="font-semibold">{t("web.quote.terms")}</h2>
      <div className="grid grid-cols-3 gap-2 max-sm:grid-cols-2">
        <Field label={t("web.quote.currency")}>
          {(id) => (
            <TextBox
              id={id}
              maxLength={8}
              value={terms.currency ?? ""}
              onCommit={(currency) => set({ currency: currency.trim() })}
            />
          )}
        </Field>
        {figure("web.quote.rate", `${terms.currency || "1"}/h`, "rate")}
        {figure("web.quote.factor", "", "factor", true)}
        {figure("web.quote.markup", "%", "markup_pct", true)}
        {figure("web.quote.overhead", "%", "overhead_pct", true)}
        {figure("web.quote.tax", "%", "tax_pct")}
        {figure("web.quote.valid", t("web.quote.days"), "valid_days", true)}
      </div>
      <fieldset className="mt-2 text-[13px]">
        <legend className="text-[12px] font-medium text-soft">{t("web.quote.beside")}</legend>
        {(Object.entries(OPTIONS) as [Option, Key][]).map(([id, title]) => (
          <label key={id} htmlFor={`option-${id}`} className="mr-4 inline-flex items-center gap-1.5 py-0.5">
            <CheckBox
              id={`option-${id}`}
              checked={options.includes(id)}
              onChange={(wanted) =>
                set({ options: wanted ? [...options, id] : options.filter((each) => each !== id) })
              }
            />
            {t(title)}
          </label>
        ))}
      </fieldset>
      <Extra terms={terms} onChange={(extra) => set({ extra })} />
    </section>
  );
}

type Extras = NonNullable<QuoteTerms["extra"]>;

/** Work that is not counted from the design, with its hours: travel, making good. */
function Extra({ terms, onChange }: { terms: QuoteTerms; onChange: (extra: Extras) => void }) {
  const extra = terms.extra ?? [];
  const add = (form: HTMLFormElement) => {
    const data = new FormData(form);
    const name = String(data.get("name") ?? "").trim();
    const hours = readFigure(String(data.get("hours") ?? ""));
    if (!name || hours === undefined || hours === null) return;
    onChange([...extra, { name, hours }]);
    form.reset();
  };
  return (
    <div className="mt-2 text-[13px]">
      <p className="text-[12px] font-medium text-soft">{t("web.quote.extra")}</p>
      <ul>
        {extra.map((each, number) => (
          <li key={number} className="flex items-center gap-2">
            {each.name} <span className="figure">{each.hours} h</span>
            <Button
              variant="quiet"
              aria-label={t("web.quote.remove_extra", { name: each.name })}
              onClick={() => onChange(extra.filter((_, at) => at !== number))}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add(event.currentTarget);
        }}
      >
        <input
          name="name"
          aria-label={t("web.quote.extra_name")}
          placeholder={t("web.quote.extra_name")}
          maxLength={120}
          className="min-w-0 flex-1 rounded-md border border-line bg-sheet px-2 py-1"
        />
        <input
          name="hours"
          aria-label={t("web.quote.extra_hours")}
          placeholder="h"
          inputMode="decimal"
          className="figure w-16 rounded-md border border-line bg-sheet px-2 py-1"
        />
        <Button type="submit">{t("web.quote.add")}</Button>
      </form>
    </div>
  );
}
