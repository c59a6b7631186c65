import type { ReactNode } from "react";

/** A box to tick, with its words beside it. */
export function Check({
  checked,
  onChange,
  children,
}: {
  checked: boolean;
  onChange: (checked: boolean) => void;
  children: ReactNode;
}) {
  return (
    <label className="flex items-center gap-2 pt-5 text-[13px]">
      <input type="checkbox" checked={checked} onChange={(event) => onChange(event.target.checked)} />
      {children}
    </label>
  );
}

/** Yes, no, or not known. */
export const YES_NO = [
  { value: "", label: "not known" },
  { value: "yes", label: "yes" },
  { value: "no", label: "no" },
];

export const yesNo = (value: boolean | null | undefined) =>
  value === true ? "yes" : value === false ? "no" : "";
export const fromYesNo = (value: string) => (value === "" ? null : value === "yes");
