import { Popover } from "radix-ui";
import type { ReactNode } from "react";
import { cx } from "./cx";

/** What opens under a word: a sheet with a title, that scrolls where it is long. */
export function PopoverPanel({
  title,
  align,
  className,
  children,
}: {
  title: string;
  align: "start" | "end";
  className: string;
  children: ReactNode;
}) {
  return (
    <Popover.Portal>
      <Popover.Content
        align={align}
        sideOffset={6}
        aria-label={title}
        className={cx(
          "z-40 max-h-[70vh] max-w-[94vw] overflow-y-auto rounded-xl border border-line bg-sheet p-3 shadow-lg",
          className,
        )}
      >
        <h2 className="mb-1 text-[13px] font-semibold">{title}</h2>
        {children}
      </Popover.Content>
    </Popover.Portal>
  );
}
