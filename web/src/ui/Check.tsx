import { type ReactNode, useId } from "react";
import { t } from "../messages/text";
import { CheckBox } from "./CheckBox";

/** A box to tick, with its words beside it. */
export function Check({
  checked,
  onChange,
  className = "flex items-center gap-2 pt-5 text-[13px]",
  children,
}: {
  checked: boolean;
  onChange: (checked: boolean) => void;
  className?: string;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <div className={className}>
      <CheckBox id={id} checked={checked} onChange={onChange} />
      <label htmlFor={id}>{children}</label>
    </div>
  );
}

/** Yes, no, or not known. */
export const YES_NO = [
  {
    value: "",
    get label() {
      return t("web.common.not_known");
    },
  },
  {
    value: "yes",
    get label() {
      return t("web.common.yes");
    },
  },
  {
    value: "no",
    get label() {
      return t("web.common.no");
    },
  },
];

export const yesNo = (value: boolean | null | undefined) =>
  value === true ? "yes" : value === false ? "no" : "";
export const fromYesNo = (value: string) => (value === "" ? null : value === "yes");
