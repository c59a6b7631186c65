import { useQuery } from "@tanstack/react-query";
import type { BeforeAfter, ExistingBoard } from "../api/client";
import { beforeAfterQuery } from "../api/queries";
import { FIGURE, VERDICT_MARKS, verdictWord } from "../circuits";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { cx } from "../ui/cx";

type Side = BeforeAfter["circuits"][number]["before"];

/** The old board and the new one by the same checks: what each circuit is guarded by, and what goes dark with it. */
export function BeforeAfterTable({ board }: { board: ExistingBoard }) {
  const { document, version, rules } = useJob();
  const titles = new Map(rules.checks.map((check) => [check.id, check.title.toLowerCase()]));
  const { data, error } = useQuery(beforeAfterQuery(document, version, board.id, true));
  if (error) return <p className="text-fail">{error.message}</p>;
  if (!data) return <p className="text-soft">{t("web.survey.compare.loading")}</p>;
  const rows: { name: string; before: string; after: string; better: boolean }[] = [
    row(
      t("web.survey.compare.ways"),
      `${data.before.ways_used} of ${data.before.ways_total}`,
      `${data.after.ways_used} of ${data.after.ways_total}`,
      false,
    ),
    row(
      t("web.survey.compare.protected"),
      String(data.before.with_rcd),
      String(data.after.with_rcd),
      data.after.with_rcd > data.before.with_rcd,
    ),
    row(
      t("web.survey.compare.most_lost"),
      String(data.before.most_lost),
      String(data.after.most_lost),
      data.after.most_lost < data.before.most_lost,
    ),
    row(
      t("web.survey.compare.failing"),
      String(data.before.failing),
      String(data.after.failing),
      data.after.failing < data.before.failing,
    ),
    row(t("web.survey.compare.unknown"), String(data.before.unknown), String(data.after.unknown), false),
  ];
  return (
    <section
      aria-label={t("web.survey.compare.section")}
      className="max-w-5xl overflow-x-auto"
      data-testid="before-after"
    >
      <table className="mb-3 rounded-xl border border-line bg-sheet text-[13px]">
        <thead>
          <tr className="text-left text-[12px] text-soft">
            <th className="px-3 py-1 font-medium">{t("web.survey.compare.head.board")}</th>
            <th className="px-3 font-medium">{t("web.survey.compare.head.before")}</th>
            <th className="px-3 font-medium">{t("web.survey.compare.head.after")}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.name} className="border-t border-line">
              <td className="px-3 py-1">{row.name}</td>
              <td className="figure px-3">{row.before}</td>
              <td className={cx("figure px-3", row.better && "font-semibold text-accent")}>{row.after}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <ul className="mb-3 list-disc pl-5 text-[13px]">
        {data.improvements.map((improvement) => (
          <li key={say(improvement)}>{say(improvement)}</li>
        ))}
      </ul>
      <table className="w-full rounded-xl border border-line bg-sheet text-[13px]">
        <thead>
          <tr className="text-left text-[12px] text-soft">
            <th className="px-2 py-1 font-medium">{t("web.survey.compare.head.circuit")}</th>
            <th className="font-medium">{t("web.survey.compare.head.before")}</th>
            <th className="font-medium">{t("web.survey.compare.head.with")}</th>
            <th className="font-medium">{t("web.survey.compare.head.after")}</th>
            <th className="font-medium">{t("web.survey.compare.head.with")}</th>
          </tr>
        </thead>
        <tbody>
          {data.circuits.map((circuit) => (
            <tr
              key={`${circuit.name} ${circuit.old_way} ${circuit.new_way}`}
              className="border-t border-line align-top"
            >
              <td className="px-2 py-1 font-medium">{circuit.name}</td>
              <SideCells side={circuit.before} way={circuit.old_way} titles={titles} />
              <SideCells side={circuit.after} way={circuit.new_way} titles={titles} />
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function row(name: string, before: string, after: string, better: boolean) {
  return { name, before, after, better };
}

function SideCells({
  side,
  way,
  titles,
}: {
  side: Side;
  way: number | null | undefined;
  titles: Map<string, string>;
}) {
  if (!side)
    return (
      <>
        <td className="py-1 text-soft">{t("web.survey.compare.none")}</td>
        <td />
      </>
    );
  return (
    <>
      <td className="py-1">
        <span className="figure text-soft">{way}</span> <span className="figure">{say(side.device)}</span>
        {side.rcd_ma && !say(side.device).includes("mA") && (
          <span className="figure text-soft"> {t("web.survey.compare.behind_rcd", { ma: side.rcd_ma })}</span>
        )}
        <span className={cx("block text-[12px]", FIGURE[side.verdict])}>
          {VERDICT_MARKS[side.verdict] ?? "✓"} {verdictWord(side.verdict)}
          {VERDICT_MARKS[side.verdict] &&
            t("web.survey.compare.worst", { worst_check: titles.get(side.worst_check) ?? side.worst_check })}
        </span>
      </td>
      <td className="py-1 text-[12px] text-soft">
        {side.trips_with.length > 3
          ? t("web.survey.compare.more", {
              list: side.trips_with.slice(0, 3).join(", "),
              n: side.trips_with.length - 3,
            })
          : side.trips_with.join(", ") || t("web.survey.compare.alone")}
      </td>
    </>
  );
}
