import { useQuery } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import { computed } from "../api/queries";
import { VERDICT_MARKS } from "../circuits";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";

/** The usual device for a job that has none: which, where on the board, its leads as laid out, and the result it would get. */
export function SurgeProposal() {
  const { document, version, edit } = useJob();
  const fitted = document.boards.some((board) => board.spds?.length);
  const proposal = useQuery({
    queryKey: ["surge-proposal", version],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/boards/propose-surge", { body: { document }, signal })),
    enabled: !fitted && document.boards.some((board) => board.ways?.length),
    retry: false,
    ...computed,
  });
  if (fitted || !proposal.data) return null;
  const { device, board, beside, leads_m, finding } = proposal.data;
  return (
    <section
      aria-label={t("web.surge.proposal.title")}
      className="rounded-xl border border-dashed border-accent bg-sheet p-4"
      data-testid="surge-proposal"
    >
      <header className="mb-2 flex items-start justify-between gap-3">
        <h2 className="font-semibold">{t("web.surge.proposal.title")}</h2>
        <Button variant="strong" onClick={() => edit(proposal.data.document)}>
          {t("web.surge.proposal.use")}
        </Button>
      </header>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[13px]">
        <Line name={t("web.surge.proposal.device")}>
          {t("web.surge.proposal.device_line", {
            name: device.name,
            up: String(device.up_kv ?? "?"),
            discharge: String(device.discharge_ka ?? "?"),
          })}
          {device.backup_a ? t("web.surge.proposal.backup", { a: String(device.backup_a) }) : ""}
        </Line>
        <Line name={t("web.surge.proposal.place")}>
          {say(beside) ? t("web.surge.proposal.beside", { board, device: say(beside) }) : board}
        </Line>
        <Line name={t("web.surge.proposal.leads")}>
          {leads_m === null || leads_m === undefined
            ? t("web.common.not_known")
            : `${(Math.ceil(leads_m * 100) / 100).toFixed(2)} m`}
        </Line>
        <Line name={t("web.surge.proposal.result")}>
          <span aria-hidden="true">{VERDICT_MARKS[finding.verdict] ?? "✓"} </span>
          {say(finding.sentence)}
        </Line>
      </dl>
    </section>
  );
}

function Line({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd className="m-0">{children}</dd>
    </>
  );
}
