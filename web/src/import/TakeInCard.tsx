import { useRef, useState } from "react";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { ImportTable } from "./ImportTable";
import type { Of } from "./takeInModel";

/** Where tables come in: circuits and prices, from a file. */
export function TakeInCard() {
  const input = useRef<HTMLInputElement>(null);
  const [wanted, setWanted] = useState<Of>("circuits");
  const [source, setSource] = useState<{ of: Of; file: File }>();
  const ask = (of: Of) => {
    setWanted(of);
    input.current?.click();
  };
  return (
    <section
      aria-label={t("web.import.section")}
      className="relative rounded-xl border border-line bg-sheet p-4"
    >
      <h2 className="font-semibold">{t("web.import.section")}</h2>
      <p className="mb-2 text-[12.5px] text-soft">{t("web.import.text")}</p>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => ask("circuits")}>{t("web.import.circuits")}</Button>
        <Button onClick={() => ask("prices")}>{t("web.import.prices")}</Button>
      </div>
      <input
        ref={input}
        type="file"
        accept=".csv,.tsv,.txt,.xlsx"
        className="sr-only"
        tabIndex={-1}
        aria-label={t("web.import.file")}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) setSource({ of: wanted, file });
          event.target.value = "";
        }}
      />
      {source && <ImportTable of={source.of} source={source.file} onClose={() => setSource(undefined)} />}
    </section>
  );
}
