import type { ReactNode } from "react";

/** A titled sheet of the intake. */
export function Card({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="rounded-xl border border-line bg-sheet p-4" aria-label={title}>
      <h2 className="mb-3 font-semibold">{title}</h2>
      {children}
    </section>
  );
}
