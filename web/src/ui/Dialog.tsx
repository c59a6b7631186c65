import { X } from "lucide-react";
import { Dialog as Primitive } from "radix-ui";
import type { ReactNode } from "react";
import { t } from "../messages/text";
import { cx } from "./cx";

type Props = {
  open: boolean;
  /** Left out where the question has to be answered: there is no way round it then. */
  onOpenChange?: (open: boolean) => void;
  title: string;
  description?: string;
  wide?: boolean;
  children: ReactNode;
};

/** A sheet over the page that keeps the keyboard inside until it is closed. */
export function Dialog({ open, onOpenChange, title, description, wide, children }: Props) {
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
      <Primitive.Portal>
        <Primitive.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Primitive.Content
          className={cx(
            "fixed left-1/2 top-1/2 z-50 max-h-[92vh] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-xl bg-sheet p-5 text-ink shadow-2xl",
            wide ? "w-[min(96vw,780px)]" : "w-[min(96vw,520px)]",
          )}
        >
          <div className="flex items-start justify-between gap-4 mb-3">
            <div>
              <Primitive.Title className="text-lg font-semibold">{title}</Primitive.Title>
              <Primitive.Description className={description ? "text-soft text-[13px]" : "sr-only"}>
                {description ?? title}
              </Primitive.Description>
            </div>
            {onOpenChange && (
              <Primitive.Close
                aria-label={t("web.common.close")}
                className="rounded-md p-1 text-soft hover:bg-wash hover:text-ink"
              >
                <X size={18} aria-hidden />
              </Primitive.Close>
            )}
          </div>
          {children}
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
