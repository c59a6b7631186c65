import type { ButtonHTMLAttributes } from "react";
import { cx } from "./cx";

type Look = "plain" | "strong" | "quiet";

const LOOKS: Record<Look, string> = {
  plain: "border border-line bg-sheet text-ink hover:border-accent",
  strong: "border border-accent bg-accent text-accent-ink hover:opacity-90",
  quiet: "border border-transparent text-soft hover:text-ink hover:bg-wash",
};

type Props = ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look };

/** A button in one of the three looks. */
export function Button({ look = "plain", className, type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={cx(
        "inline-flex items-center gap-1.5 rounded-md px-2.5 py-1 text-[13px] font-medium disabled:opacity-45",
        LOOKS[look],
        className,
      )}
      {...rest}
    />
  );
}
