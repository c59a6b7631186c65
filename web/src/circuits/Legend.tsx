import { Popover } from "radix-ui";
import type { Verdict } from "../api/client";
import { type Key, t } from "../messages/text";
import { PopoverPanel } from "../ui/PopoverPanel";
import { Gauge } from "./Gauge";

const LINES: { verdict: Verdict; margin: number; assumed?: boolean; accepted?: boolean; text: Key }[] = [
  { verdict: "pass", margin: 0.6, text: "web.circuits.legend.pass" },
  { verdict: "tight", margin: 0.09, text: "web.circuits.legend.tight" },
  { verdict: "fail", margin: -0.3, text: "web.circuits.legend.fail" },
  { verdict: "advice", margin: 0, text: "web.circuits.legend.advice" },
  { verdict: "advice", margin: 0, accepted: true, text: "web.circuits.legend.accepted" },
  { verdict: "missing", margin: 0, text: "web.circuits.legend.missing" },
  { verdict: "pass", margin: 0.6, assumed: true, text: "web.circuits.legend.assumed" },
];

/** What the shapes in the cells say. */
export function Legend() {
  return (
    <Popover.Root>
      <Popover.Trigger className="rounded-md px-1.5 text-[12.5px] text-soft underline decoration-dotted hover:text-ink">
        {t("web.circuits.legend.title")}
      </Popover.Trigger>
      <PopoverPanel title={t("web.circuits.legend.title")} align="end" className="w-80">
        <ul className="flex flex-col gap-1.5">
          {LINES.map((line) => (
            <li key={line.text} className="grid grid-cols-[84px_1fr] items-center gap-3 text-[12.5px]">
              <Gauge {...line} />
              <span>{t(line.text)}</span>
            </li>
          ))}
        </ul>
        <p className="mt-2 text-[12px] text-soft">{t("web.circuits.legend.text")}</p>
      </PopoverPanel>
    </Popover.Root>
  );
}
