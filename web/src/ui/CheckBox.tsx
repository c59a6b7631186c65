import { Check as Tick } from "lucide-react";
import { Checkbox } from "radix-ui";
import type { ComponentProps } from "react";
import { cx } from "./cx";

/** A box to tick. Its words are in a label around it, or in ``aria-label``. */
export function CheckBox({
  onChange,
  className,
  ...rest
}: Omit<ComponentProps<typeof Checkbox.Root>, "onChange" | "onCheckedChange" | "checked"> & {
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <Checkbox.Root
      {...rest}
      onCheckedChange={(checked) => onChange(checked === true)}
      className={cx(
        "inline-flex size-4 shrink-0 items-center justify-center rounded border border-soft bg-sheet text-accent-ink data-[state=checked]:border-accent data-[state=checked]:bg-accent disabled:opacity-50",
        className,
      )}
    >
      <Checkbox.Indicator>
        <Tick size={13} strokeWidth={3} aria-hidden />
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
}
