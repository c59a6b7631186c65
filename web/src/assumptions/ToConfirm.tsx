import { Popover } from "radix-ui";
import type { Assessment } from "../api/client";
import { t } from "../messages/text";
import { PopoverPanel } from "../ui/PopoverPanel";
import { AssumptionList } from "./AssumptionList";

/** How many values are assumed, in a word that opens into the list of them. Nothing where none is. */
export function ToConfirm({ assessment }: { assessment: Assessment | undefined }) {
  const count = assessment?.to_confirm ?? 0;
  if (!count) return null;
  return (
    <Popover.Root>
      <Popover.Trigger
        className="shrink-0 rounded-md px-1 text-[13px] text-ink underline decoration-dashed underline-offset-2"
        data-testid="to-confirm"
      >
        <span aria-hidden="true">□ </span>
        {t("web.assumed.count", { n: count })}
      </Popover.Trigger>
      <PopoverPanel title={t("web.assumed.title")} align="start" className="w-[36rem]">
        <AssumptionList />
      </PopoverPanel>
    </Popover.Root>
  );
}
