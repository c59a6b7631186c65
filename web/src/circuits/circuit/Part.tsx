import type { ReactNode } from "react";
import type { Circuit } from "../../api/client";

/** A change to some of a circuit. */
export type Change = (part: Partial<Circuit>) => void;

/** A titled group of the circuit sheet. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="mt-4 border-t border-line pt-2">
      <legend className="pr-2 text-[13px] font-semibold">{title}</legend>
      {children}
    </fieldset>
  );
}
