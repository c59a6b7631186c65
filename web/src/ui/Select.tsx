import { ChevronDown } from "lucide-react";
import { Select as Radix } from "radix-ui";
import { cx } from "./cx";

export type Option = { value: string; label: string };

/** Radix takes the empty value for "nothing chosen"; here it is a choice like any other. */
const EMPTY = "–empty–";
const toRadix = (value: string) => value || EMPTY;
const fromRadix = (value: string) => (value === EMPTY ? "" : value);

/** One of a few, by name: opened by Enter or an arrow key, found by typing its first letters. */
export function Select({
  value,
  options,
  onCommit,
  disabled,
  className,
  ...rest
}: {
  id?: string;
  "aria-label"?: string;
  value: string;
  options: readonly Option[];
  onCommit: (value: string) => void;
  disabled?: boolean;
  className?: string;
}) {
  return (
    <Radix.Root
      value={toRadix(value)}
      disabled={disabled}
      onValueChange={(next) => onCommit(fromRadix(next))}
    >
      <Radix.Trigger
        {...rest}
        data-value={value}
        className={cx(
          "flex items-center justify-between gap-1 rounded-md border border-line bg-sheet px-2 py-1 text-left text-ink focus:border-accent disabled:opacity-60",
          className,
        )}
      >
        <span className="truncate">
          <Radix.Value />
        </span>
        <Radix.Icon className="shrink-0 text-soft">
          <ChevronDown size={14} aria-hidden />
        </Radix.Icon>
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={2}
          collisionPadding={8}
          className="z-50 max-h-[min(60vh,var(--radix-select-content-available-height))] min-w-[var(--radix-select-trigger-width)] overflow-hidden rounded-lg border border-line bg-sheet shadow-lg"
        >
          <Radix.Viewport className="p-1">
            {options.map((option) => (
              <Radix.Item
                key={option.value}
                value={toRadix(option.value)}
                data-value={option.value}
                className="cursor-default rounded px-2 py-1 text-[13px] text-ink outline-none data-[highlighted]:bg-wash data-[state=checked]:font-semibold data-[state=checked]:text-accent"
              >
                <Radix.ItemText>{option.label}</Radix.ItemText>
              </Radix.Item>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
