import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answered, client, type TableAnswer } from "../api/client";
import { reasons } from "../api/lines";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { ColumnMatching } from "./ColumnMatching";
import { ReadRows } from "./ReadRows";
import { fieldsByColumn, lacking, mappingOf, type Of } from "./takeInModel";

type Props = { of: Of; source: File | string; onClose: () => void };

/** A table before it is taken in: which column is what, and what each row would become or why it cannot. */
export function ImportTable({ of, source, onClose }: Props) {
  const [answer, setAnswer] = useState<TableAnswer>();
  const [fields, setFields] = useState<string[]>([]);
  const [wrong, setWrong] = useState<string[]>([]);

  useEffect(() => {
    let gone = false;
    read(of, source)
      .then((sheets) => {
        if (gone) return;
        setAnswer(sheets);
        setFields(fieldsByColumn(sheets));
      })
      .catch((error) => !gone && setWrong(reasons(error)));
    return () => {
      gone = true;
    };
  }, [of, source]);

  return (
    <Dialog
      open
      onOpenChange={onClose}
      wide
      title={of === "circuits" ? t("web.import.title_circuits") : t("web.import.title_prices")}
      description={t("web.import.description")}
    >
      {wrong.length > 0 && (
        <ul role="alert" className="text-fail">
          {wrong.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {!answer && !wrong.length && <p className="text-soft">{t("web.import.loading")}</p>}
      {answer && (
        <>
          <ColumnMatching answer={answer} fields={fields} onFields={setFields} />
          <Tried of={of} answer={answer} fields={fields} onClose={onClose} />
        </>
      )}
    </Dialog>
  );
}

function read(of: Of, source: File | string): Promise<TableAnswer> {
  return answered(
    client.POST("/api/imports/table", {
      params: { query: { of, pasted: typeof source === "string" } },
      body: source as string,
      bodySerializer: (body: string) => body,
      headers: { "content-type": "application/octet-stream" },
    }),
  );
}

/** The rows tried against the job as it is kept; accepting them is one change of the document. */
function Tried({
  of,
  answer,
  fields,
  onClose,
}: {
  of: Of;
  answer: TableAnswer;
  fields: readonly string[];
  onClose: () => void;
}) {
  const { jobId, version, saved, edit, notify } = useJob();
  const missing = lacking(answer, fields);
  const mapping = mappingOf(fields);
  const tried = useQuery({
    queryKey: ["take-in", of, jobId, version, answer.table, mapping],
    queryFn: async ({ signal }) => {
      const body = {
        base: await saved(),
        rows: answer.table.rows,
        mapping,
        first_row: answer.table.first_row,
      };
      const path = { params: { path: { job_id: jobId } }, body, signal };
      return of === "circuits"
        ? answered(client.POST("/api/jobs/{job_id}/imports/circuits", path))
        : answered(client.POST("/api/jobs/{job_id}/imports/prices", path));
    },
    enabled: missing.length === 0,
    gcTime: 0,
    retry: false,
  });
  if (missing.length)
    return (
      <p role="alert" className="mt-3 text-fail">
        {t("web.import.unmatched", { list: missing.join(", ") })}
      </p>
    );
  if (tried.error)
    return (
      <ul role="alert" className="mt-3 text-fail">
        {reasons(tried.error).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    );
  if (!tried.data) return <p className="mt-3 text-soft">{t("web.import.checking")}</p>;
  const { rows, added, job } = tried.data;
  const accept = () => {
    edit(job);
    notify(t(of === "circuits" ? "web.import.done_circuits" : "web.import.done_prices", { n: added }));
    onClose();
  };
  const left = rows.length - added;
  return (
    <>
      <ReadRows rows={rows} />
      <div className="mt-4 flex items-center justify-end gap-3">
        <span className="flex-1 text-[13px] text-soft">
          {t("web.import.ready", { n: added, total: rows.length, left })}
        </span>
        <Button onClick={onClose}>{t("web.import.cancel")}</Button>
        <Button variant="strong" disabled={added === 0} onClick={accept}>
          {t("web.import.accept", { n: added })}
        </Button>
      </div>
    </>
  );
}
