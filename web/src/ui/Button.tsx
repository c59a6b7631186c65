import type { ComponentProps } from "react";
import { cx } from "./cx";

type Variant = "plain" | "strong" | "quiet";

const VARIANTS: Record<Variant, string> = {
  plain: "border border-line bg-sheet text-ink hover:border-accent",
  strong: "border border-accent bg-accent text-accent-ink hover:opacity-90",
  quiet: "border border-transparent text-soft hover:text-ink hover:bg-wash",
};

type Props = ComponentProps<"button"> & { variant?: Variant };

/** A button in one of three variants. */
export function Button({ variant = "plain", className, type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={cx(
        "inline-flex items-center gap-1.5 rounded-md px-2.5 py-1 text-[13px] font-medium disabled:opacity-45",
        VARIANTS[variant],
        className,
      )}
      {...rest}
    />
  );
}
