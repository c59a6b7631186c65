import type { Circuit, Range } from "../api/client";

/** The circuit with a quantity at another value: what the slider takes over into the job. */
export function movedTo(circuit: Circuit, range: Range, value: number): Circuit {
  const share = value / range.now;
  const tenth = (figure: number) => Math.round(figure * 10) / 10;
  if (range.quantity === "length") {
    return {
      ...circuit,
      run: circuit.run.map((section) => ({
        ...section,
        length_m: section.length_m ? tenth(section.length_m * share) : section.length_m,
      })),
    };
  }
  if (range.quantity === "load") {
    return {
      ...circuit,
      loads: (circuit.loads ?? []).map((load) => ({
        ...load,
        power_w: load.power_w ? Math.round(load.power_w * share) : load.power_w,
      })),
    };
  }
  const part =
    range.quantity === "ambient" ? { ambient_c: tenth(value) } : { circuits_grouped: Math.round(value) };
  return { ...circuit, run: circuit.run.map((section) => ({ ...section, ...part })) };
}
