import { useState } from "react";
import { answered, client } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { FileButton } from "../ui/FileButton";

/** Readings from a file that an instrument or a spreadsheet has saved. The same file twice changes nothing. */
export function ImportReadings() {
  const { jobId, saved, takeRevision } = useJob();
  const [said, setSaid] = useState<string[]>([]);
  const read = async (file: File) => {
    try {
      await saved();
      const answer = await answered(
        client.POST("/api/jobs/{job_id}/readings/table", {
          params: { path: { job_id: jobId } },
          body: { csv: await file.text() },
        }),
      );
      takeRevision(answer.revision);
      setSaid([
        t("web.testing.imported", { n: answer.taken.length }),
        ...answer.problems.map((problem) => t("web.testing.import_row", { problem })),
        ...answer.refused.map(({ why }) => why),
      ]);
    } catch (reason) {
      setSaid([reason instanceof Error ? reason.message : String(reason)]);
    }
  };
  return (
    <div className="mt-3 border-t border-line pt-2 text-[12.5px]">
      <FileButton
        text={t("web.testing.import")}
        label={t("web.testing.import_file")}
        accept=".csv,text/csv,text/plain"
        onFiles={([file]) => file && void read(file)}
      />
      <ul role="status" className="mt-1">
        {said.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  );
}
