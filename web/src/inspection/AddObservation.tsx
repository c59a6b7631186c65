import { useId, useState } from "react";
import type { ObservationCatalogue } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { wallClock } from "../readings/testModel";
import { cx } from "../ui/cx";
import { matching, withObservation } from "./inspectionModel";

const MOST = 8;

/** A box that finds an observation in the catalogue by a few words, or takes the words themselves. Arrow keys and Enter. */
export function AddObservation({ catalogue, by }: { catalogue: ObservationCatalogue; by: string }) {
  const { document, edit } = useJob();
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const list = useId();
  const found = matching(catalogue.observations, typed).slice(0, MOST);
  const words = typed.trim();
  const options = words
    ? [
        ...found.map(({ id, title, code }) => ({ kind: id, text: "", title, code })),
        { kind: "", text: words, title: words, code: "" },
      ]
    : [];
  const add = (option: (typeof options)[number] | undefined) => {
    if (!option) return;
    edit(withObservation(document, { kind: option.kind, text: option.text, by, at: wallClock(new Date()) }));
    setTyped("");
    setAt(0);
  };
  return (
    <div className="relative mb-2 max-w-2xl">
      <input
        role="combobox"
        aria-expanded={options.length > 0}
        aria-controls={list}
        aria-activedescendant={options.length ? `${list}-${at}` : undefined}
        aria-label={t("web.inspection.add")}
        placeholder={t("web.inspection.add")}
        data-testid="add-observation"
        maxLength={1000}
        className="w-full rounded-md border border-line bg-sheet px-2 py-1.5 text-[13px] max-sm:text-[16px]"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
          if (step && options.length) {
            event.preventDefault();
            setAt((at + step + options.length) % options.length);
          } else if (event.key === "Enter") {
            event.preventDefault();
            add(options[at]);
          } else if (event.key === "Escape") setTyped("");
        }}
      />
      <div
        id={list}
        role="listbox"
        aria-label={t("web.inspection.catalogue")}
        hidden={options.length === 0}
        className="absolute z-20 mt-0.5 w-full rounded-md border border-line bg-sheet py-1 shadow-lg"
      >
        {options.map((option, index) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the keys are those of the box above
          <div
            key={option.kind || "own"}
            id={`${list}-${index}`}
            role="option"
            tabIndex={-1}
            aria-selected={index === at}
            className={cx("cursor-pointer px-2 py-1 text-[13px]", index === at && "bg-wash")}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => add(option)}
          >
            <span className="figure mr-2 inline-block min-w-8 text-soft">{option.code}</span>
            {option.kind ? option.title : t("web.inspection.own", { text: option.title })}
          </div>
        ))}
      </div>
    </div>
  );
}
