import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";
import type { RuleSetView } from "../api/client";
import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { cx } from "../ui/cx";
import type { Edit } from "./gridModel";

const HEAD: Record<Edit, Key> = {
  device: "web.circuits.head.device",
  lines: "web.circuits.head.lines",
  cable: "web.circuits.head.cable",
  length: "web.circuits.head.length",
  method: "web.circuits.head.method",
};
const HINT: Record<Edit, Key> = {
  device: "web.circuits.head.device_hint",
  lines: "web.circuits.head.lines_hint",
  cable: "web.circuits.head.cable_hint",
  length: "web.circuits.head.length_hint",
  method: "web.circuits.head.method_hint",
};

/** The heads of the columns: what each shows, in words and in the standard's own unit of size; its question on hover. */
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
  const size = (text: string) => text.replace("mm²", rules.size_unit);
  const heads = [
    { title: t("web.circuits.head.circuit"), note: "", hint: t("web.circuits.head.circuit_hint") },
    ...edits.map((each) => ({
      title: t(HEAD[each]),
      note: each === "cable" ? `[${rules.size_unit}]` : each === "length" ? "[m]" : "",
      hint: t(HINT[each]),
    })),
    ...checks.map((check) => ({ title: check.short, note: size(check.compares), hint: check.question })),
  ];
  return (
    <Tooltip.Provider delayDuration={250}>
      <div
        role="row"
        className="sticky top-0 z-20 grid bg-ground pb-1"
        style={{ gridTemplateColumns: "subgrid", gridColumn: "1 / -1" }}
      >
        {heads.map((head, index) => (
          <Hint key={head.title} text={head.hint}>
            <div
              role="columnheader"
              className={cx(
                "flex flex-col justify-end px-1.5 leading-tight",
                index === column ? "text-accent" : "text-ink",
                index === 0 && "pl-8",
              )}
            >
              <span className="text-[13px] font-semibold">{head.title}</span>
              <span className="text-[11px] leading-[12px] text-soft">{head.note}</span>
            </div>
          </Hint>
        ))}
      </div>
    </Tooltip.Provider>
  );
}

function Hint({ text, children }: { text: string; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side="bottom"
          sideOffset={4}
          className="z-40 max-w-64 rounded-md border border-line bg-sheet px-2.5 py-1.5 text-[12.5px] shadow-lg"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
