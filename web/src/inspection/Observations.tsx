import { useState } from "react";
import type { CodedObservation, ObservationCatalogue } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Photos } from "../survey/Photos";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { Field, TextBox } from "../ui/Field";
import { Select } from "../ui/Select";
import { subjectsOf, withChanged } from "./inspectionModel";

/** Every observation with its code, the most serious first. Those of a survey are changed where they were entered. */
export function Observations({
  coded,
  catalogue,
}: {
  coded: CodedObservation[];
  catalogue: ObservationCatalogue;
}) {
  if (coded.length === 0) return <p className="text-[13px] text-soft">{t("web.inspection.none")}</p>;
  return (
    <ul>
      {coded.map((each) => (
        <OneObservation key={each.id} coded={each} catalogue={catalogue} />
      ))}
    </ul>
  );
}

function OneObservation({ coded, catalogue }: { coded: CodedObservation; catalogue: ObservationCatalogue }) {
  const { document, edit } = useJob();
  const [open, setOpen] = useState(false);
  const entered = document.inspection?.observations?.find(({ id }) => id === coded.id);
  const bad = !coded.code || coded.code.unsatisfactory;
  const change = (part: Parameters<typeof withChanged>[2]) => edit(withChanged(document, coded.id, part));
  return (
    <li
      className="border-b border-line/60 py-1.5 text-[13px]"
      data-observation={coded.id}
      data-code={coded.code?.code ?? ""}
    >
      <div className="flex flex-wrap items-start gap-x-3 gap-y-1">
        {entered ? (
          <Select
            aria-label={t("web.inspection.code")}
            className={cx("w-40", bad && "text-fail font-semibold")}
            value={entered.code ?? ""}
            options={[
              {
                value: "",
                label:
                  coded.usual && coded.code
                    ? t("web.inspection.usual_code", { code: coded.code.code })
                    : t("web.inspection.choose_code"),
              },
              ...catalogue.codes.map(({ code, meaning }) => ({ value: code, label: `${code}: ${meaning}` })),
            ]}
            onCommit={(code) => change({ code })}
          />
        ) : (
          <span className={cx("figure w-40 py-1", bad && "font-semibold text-fail")}>{coded.code?.code}</span>
        )}
        <div className="min-w-0 flex-1 basis-64">
          <p>
            <span className="font-medium">{say(coded.title)}</span>
            {coded.text && <span>: {say(coded.text)}</span>}{" "}
            <span className="text-soft">{say(coded.where) || t("web.inspection.installation")}</span>
          </p>
          <p className="text-[12.5px] text-soft">{[coded.reason, coded.clause].filter(Boolean).join(" ")}</p>
          {coded.done && <p className="text-[12.5px]">{t("web.inspection.done_is", { what: coded.done })}</p>}
        </div>
        {entered ? (
          <Button variant="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {t("web.inspection.edit")}
          </Button>
        ) : (
          <span className="py-1 text-[12px] text-soft">{t("web.inspection.surveyed")}</span>
        )}
      </div>
      {open && entered && (
        <div className="mt-2 grid gap-2 rounded-md bg-sheet p-3 sm:grid-cols-2">
          <Field label={t("web.inspection.where")}>
            {(id) => (
              <Select
                id={id}
                className="w-full"
                value={entered.subject ?? ""}
                options={subjectsOf(document, t("web.inspection.installation"))}
                onCommit={(subject) => change({ subject })}
              />
            )}
          </Field>
          <Field label={t("web.inspection.text")}>
            {(id) => (
              <TextBox
                id={id}
                value={entered.text ?? ""}
                maxLength={1000}
                onCommit={(text) => change({ text })}
              />
            )}
          </Field>
          <Field label={t("web.inspection.done")}>
            {(id) => (
              <TextBox
                id={id}
                value={entered.done ?? ""}
                maxLength={1000}
                onCommit={(done) => change({ done })}
              />
            )}
          </Field>
          {coded.also && <p className="self-end text-[12.5px] text-soft">{coded.also}</p>}
          <div className="sm:col-span-2">
            <Photos board={`observation:${coded.id}`} way={null} title={t("web.inspection.photos")} />
          </div>
          <Button variant="quiet" className="justify-self-start" onClick={() => change(null)}>
            {t("web.inspection.delete")}
          </Button>
        </div>
      )}
    </li>
  );
}
