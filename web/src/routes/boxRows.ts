import type { PlannedCircuit } from "../api/client";

export type Box = PlannedCircuit["boxes"][number];
/** One conductor in a box: whose it is, and which net it joins. */
export type BoxRow = { of: string; net: string };

/** What comes into a box on its cables, and the terminals in it: a row for each conductor, and the nets in the order they are drawn. */
export function boxRows(circuit: Pick<PlannedCircuit, "sections">, box: Pick<Box, "box" | "devices">) {
  const cables = circuit.sections
    .filter(({ a, b }) => a === box.box || b === box.box)
    .map(({ a, b, carries }) => ({ to: a === box.box ? b : a, carries }));
  const left: BoxRow[] = cables.flatMap(({ to, carries }) => carries.map((net) => ({ of: to, net })));
  const right: BoxRow[] = box.devices.flatMap(({ name, terminals }) =>
    terminals.map((net) => ({ of: name, net })),
  );
  const nets = [...new Set([...left, ...right].map(({ net }) => net))].sort(
    (a, b) => place(a) - place(b) || a.localeCompare(b),
  );
  return { left, right, nets };
}

/** Nets from left to right: line, switched lines and what is between switches, neutral, protective conductor. */
function place(net: string): number {
  if (net === "L") return 0;
  if (net === "N") return 3;
  if (net === "PE") return 4;
  return net.startsWith("SL") ? 1 : 2;
}
