import { Popover } from "radix-ui";
import type { Assessment } from "../api/client";
import { t } from "../messages/text";
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
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label={t("web.assumed.title")}
          className="z-40 max-h-[70vh] w-[36rem] max-w-[94vw] overflow-y-auto rounded-xl border border-line bg-sheet p-3 shadow-lg"
        >
          <h2 className="mb-1 text-[13px] font-semibold">{t("web.assumed.title")}</h2>
          <AssumptionList />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
