import { type InputHTMLAttributes, type ReactNode, useEffect, useId, useState } from "react";
import { t } from "../messages/text";
import { cx } from "./cx";
import { type Option, Select } from "./Select";

const BOX =
  "w-full rounded-md border border-line bg-sheet px-2 py-1 text-ink placeholder:text-soft focus:border-accent";

/** A labelled place for one figure or word, with who can supply it and what is wrong with it. */
export function Field({
  label,
  hint,
  error,
  children,
}: {
  label: string;
  hint?: string;
  error?: string;
  children: (id: string) => ReactNode;
}) {
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-0.5 block text-[12px] font-medium text-soft">
        {label}
      </label>
      {children(id)}
      {error ? (
        <p role="alert" className="mt-0.5 text-[12px] text-fail">
          {error}
        </p>
      ) : (
        hint && <p className="mt-0.5 text-[12px] text-soft">{hint}</p>
      )}
    </div>
  );
}

/** A line of text that reports its value when it is left or Enter is pressed, and gives it back at Esc. */
export function TextBox({
  value,
  onCommit,
  className,
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, "onChange"> & {
  value: string;
  onCommit: (value: string) => void;
}) {
  const [draft, setDraft] = useState(value);
  useEffect(() => setDraft(value), [value]);
  return (
    <input
      {...rest}
      className={cx(BOX, className)}
      value={draft}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => draft !== value && onCommit(draft)}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape" && draft !== value) {
          event.stopPropagation();
          setDraft(value);
        }
      }}
    />
  );
}

/** A figure with its unit; empty means not known. What is not a figure is kept in the box and said. */
export function FigureField({
  label,
  unit,
  value,
  hint,
  onCommit,
  required,
  signed,
  empty = t("web.common.not_known"),
}: {
  label: string;
  unit: string;
  value: number | null | undefined;
  hint?: string;
  required?: boolean;
  /** Whether it may lie below nought. */
  signed?: boolean;
  /** What an empty box means. */
  empty?: string;
  onCommit: (value: number | null) => void;
}) {
  const [error, setError] = useState<string>();
  return (
    <Field label={`${label}${unit ? ` [${unit}]` : ""}`} hint={hint} error={error}>
      {(id) => (
        <TextBox
          id={id}
          inputMode="decimal"
          className="figure"
          placeholder={required ? "" : empty}
          value={value === null || value === undefined ? "" : String(value)}
          onCommit={(text) => {
            const figure = readFigure(text, signed);
            if (figure === undefined || (figure === null && required)) {
              setError(
                text.trim() ? t("web.common.not_a_number", { text: text }) : t("web.common.number_needed"),
              );
              return;
            }
            setError(undefined);
            onCommit(figure);
          }}
        />
      )}
    </Field>
  );
}

/** A figure as it is typed: comma or point; null for empty, undefined for what is no figure. */
export function readFigure(text: string, signed = false): number | null | undefined {
  const plain = text.trim().replace(",", ".").replace("−", "-");
  if (plain === "") return null;
  return (signed ? /^-?\d+(\.\d+)?$/ : /^\d+(\.\d+)?$/).test(plain) ? Number(plain) : undefined;
}

/** One of a few, by name. */
export function Choice({
  label,
  hint,
  value,
  options,
  onCommit,
  disabled,
}: {
  label: string;
  hint?: string;
  value: string;
  options: readonly Option[];
  onCommit: (value: string) => void;
  disabled?: boolean;
}) {
  return (
    <Field label={label} hint={hint}>
      {(id) => (
        <Select
          id={id}
          className="w-full"
          value={value}
          options={options}
          onCommit={onCommit}
          disabled={disabled}
        />
      )}
    </Field>
  );
}
