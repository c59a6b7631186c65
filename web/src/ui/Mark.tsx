/** The mark: a crossing of two wires of the lattice, lit. */
export function Mark({ size = 20 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden="true">
      <path d="M1 7h18M1 13h18M7 1v18M13 1v18" className="stroke-line" strokeWidth="1.6" />
      <circle cx="13" cy="13" r="3.6" className="fill-accent" />
    </svg>
  );
}
