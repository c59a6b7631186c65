import { useState } from "react";
import { Link } from "react-router";
import { client, type ExistingBoard, type RatingTransfer } from "../api/client";
import { useJob } from "../job/JobContext";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { Select } from "../ui/Select";

/** Every old way and what it becomes, the cable being the limit; and the button that makes the new board. */
export function RatingTransfers({
  board,
  mapped,
  onChange,
}: {
  board: ExistingBoard;
  mapped: RatingTransfer[];
  onChange: (board: ExistingBoard) => void;
}) {
  const { document, jobId } = useJob();
  const answeredEdit = useAnsweredEdit();
  const [busy, setBusy] = useState(false);
  const circuits = document.circuits ?? [];
  const make = async () => {
    setBusy(true);
    await answeredEdit(client.POST("/api/survey/replace-board", { body: { document, board: board.id } }));
    setBusy(false);
  };
  const take = (way: number, circuit: string) =>
    onChange({
      ...board,
      ways: board.ways.map((other) =>
        other.number === way ? { ...other, circuit: circuit || null } : other,
      ),
    });
  const replaced = document.boards?.find((other) => other.id === board.replaced_by);
  const open = mapped.filter((transfer) => !board.ways.find((way) => way.number === transfer.way)?.circuit);
  return (
    <section aria-label={t("web.survey.tab.ratings")} className="max-w-6xl overflow-x-auto">
      <table className="w-full rounded-xl border border-line bg-sheet text-[13px]" data-testid="old-to-new">
        <thead>
          <tr className="text-left text-[12px] text-soft">
            <th className="px-2 py-1 font-medium">{t("web.survey.ways.head.way")}</th>
            <th className="font-medium">{t("web.survey.ratings.head.feeds")}</th>
            <th className="font-medium">{t("web.survey.ratings.head.old")}</th>
            <th className="font-medium">{t("web.survey.ratings.head.near")}</th>
            <th className="font-medium">{t("web.survey.ratings.head.cable")}</th>
            <th className="font-medium">{t("web.survey.ratings.head.new")}</th>
            <th className="font-medium">{t("web.survey.ratings.head.why")}</th>
            <th className="font-medium">{t("web.survey.ratings.head.by")}</th>
          </tr>
        </thead>
        <tbody>
          {mapped.map((transfer) => {
            const lower =
              transfer.new_a !== null &&
              transfer.new_a !== undefined &&
              transfer.nearest_rating_a !== null &&
              transfer.nearest_rating_a !== undefined &&
              transfer.new_a < transfer.nearest_rating_a;
            const circuit = board.ways.find((way) => way.number === transfer.way)?.circuit ?? "";
            return (
              <tr key={transfer.way} className="border-t border-line" data-mapped={transfer.way}>
                <td className="figure px-2 py-1">{transfer.way}</td>
                <td>{transfer.name}</td>
                <td className="whitespace-nowrap">{say(transfer.old)}</td>
                <td className="figure whitespace-nowrap pr-3">
                  {transfer.nearest_rating_a
                    ? t("web.survey.ratings.amps", { near_a: transfer.nearest_rating_a })
                    : "?"}
                </td>
                <td className="figure whitespace-nowrap pr-3">
                  {transfer.cable_a ? t("web.survey.ratings.amps", { near_a: transfer.cable_a }) : "?"}
                </td>
                <td
                  className={cx(
                    "figure whitespace-nowrap pr-3 font-semibold",
                    lower && "text-tight",
                    !transfer.new_a && "text-missing",
                  )}
                >
                  {transfer.new_a ? `${lower ? "‖ " : ""}${transfer.new_a} A` : "?"}
                </td>
                <td className="text-[12px] text-soft">{say(transfer.reason)}</td>
                <td>
                  <Select
                    aria-label={t("web.survey.ratings.by_label", { n: transfer.way })}
                    value={circuit}
                    options={[
                      { value: "", label: circuits.length ? t("web.survey.ratings.by_new") : "–" },
                      ...circuits.map((known) => ({ value: known.id, label: known.name })),
                    ]}
                    onCommit={(id) => take(transfer.way, id)}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button variant="strong" disabled={busy || !open.length} onClick={() => void make()}>
          {replaced ? t("web.survey.ratings.rest") : t("web.survey.ratings.create")}
        </Button>
        {replaced && (
          <span className="text-[13px]">
            {t("web.survey.ratings.replaced", { board: replaced.name })}{" "}
            <Link className="text-accent underline" to={`/jobs/${jobId}/circuits`}>
              {t("web.survey.ratings.enter")}
            </Link>{" "}
            {t("web.survey.ratings.or")}{" "}
            <Link className="text-accent underline" to={`/jobs/${jobId}/board?board=${replaced.id}`}>
              {t("web.survey.ratings.lay_out")}
            </Link>
            .
          </span>
        )}
      </div>
      <p className="mt-2 text-[12px] text-soft">{t("web.survey.ratings.note")}</p>
    </section>
  );
}
