import type { RuleSetView } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import type { Edit } from "./gridModel";

const HEAD: Record<Edit, string> = {
  get device() {
    return t("web.circuits.head.device");
  },
  get lines() {
    return t("web.circuits.head.lines");
  },
  get cable() {
    return t("web.circuits.head.cable");
  },
  length: "m",
  method: "Method",
};
/** The heads of the columns, each check with what it compares in the standard's own unit of size. */
export function Heads({
  column,
  edits,
  checks,
}: {
  column: number;
  edits: readonly Edit[];
  checks: RuleSetView["checks"];
}) {
  const { rules } = useJob();
  const heads = [
    { title: t("web.circuits.head.circuit"), note: "" },
    ...edits.map((each) => ({ title: HEAD[each], note: each === "cable" ? rules.size_unit : "" })),
    ...checks.map((check) => ({
      title: check.short,
      note: check.compares.replace("mm²", rules.size_unit),
    })),
  ];
  return (
    <div
      role="row"
      className="sticky top-0 z-20 grid bg-ground pb-1"
      style={{ gridTemplateColumns: "subgrid", gridColumn: "1 / -1" }}
    >
      {heads.map((head, index) => (
        <div
          key={head.title}
          role="columnheader"
          className={cx(
            "flex flex-col justify-end px-1.5 leading-tight",
            index === column ? "text-accent" : "text-ink",
            index === 0 && "pl-8",
          )}
        >
          <span className="text-[13px] font-semibold">{head.title}</span>
          <span className="figure text-[11px] text-soft">{head.note}</span>
        </div>
      ))}
    </div>
  );
}
