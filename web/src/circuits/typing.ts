import type { Circuit, Job, Line, RuleSetView } from "../api/client";
import { onLines } from "../job/jobModel";
import { t } from "../messages/text";
import { readFigure } from "../ui/Field";
import { type Edit, sizeLabel } from "./gridModel";

/** What a typed change came to: a changed circuit, or why it cannot be. */
type Typed = { circuit: Circuit } | { error: string };

/** Whether the plan gives the length of a circuit: it has points there, and a typed length would be replaced at its next change. */
export const isPlanned = (job: Job, circuit: Circuit) =>
  (job.plan?.boards ?? []).length > 0 &&
  (job.plan?.points ?? []).some((point) => point.circuit === circuit.id);

/** A cell's text as it was typed, made into a changed circuit. What may be chosen comes from the rules. */
export function typed(
  circuit: Circuit,
  edit: Edit,
  text: string,
  rules: RuleSetView,
  planned = false,
): Typed {
  const plain = text.trim();
  if (edit === "device") return typedDevice(circuit, plain, rules);
  if (edit === "cable") return typedCable(circuit, plain, rules);
  if (edit === "length" && planned) return { error: t("web.circuits.typed.planned") };
  if (edit === "length") return typedLength(circuit, plain);
  if (edit === "lines") return typedLines(circuit, plain);
  return typedMethod(circuit, plain, rules);
}

function typedDevice(circuit: Circuit, text: string, rules: RuleSetView): Typed {
  if (text.toLowerCase() === "auto") return { circuit: { ...circuit, device: "auto" } };
  const match = /^([a-z])?\s*(\d+(?:[.,]\d+)?)\s*a?$/i.exec(text);
  if (!match) return { error: t("web.circuits.typed.device_unknown", { text: text }) };
  const rating_a = Number((match[2] ?? "").replace(",", "."));
  const old = circuit.device && typeof circuit.device !== "string" ? circuit.device : undefined;
  const kind =
    rules.devices.find((known) => known.id === old?.kind) ?? rules.devices.find(({ current }) => current);
  if (!kind) return { error: t("web.circuits.typed.device_kind") };
  const curves: string[] = kind.curves;
  const curve =
    match[1]?.toUpperCase() ?? (curves.length ? (old?.curve ?? kind.usual_curve ?? curves[0]) : undefined);
  if (curve && !curves.includes(curve)) {
    return {
      error: curves.length
        ? t("web.circuits.typed.curves", { kind: kind.short, list: curves.join(", ") })
        : t("web.circuits.typed.no_curve", { kind: kind.title.toLowerCase() }),
    };
  }
  if (!kind.ratings_a.includes(rating_a)) {
    return { error: t("web.circuits.typed.ratings", { kind: kind.short, list: kind.ratings_a.join(", ") }) };
  }
  const base = old ?? {
    kind: kind.id,
    breaking_ka: kind.breaking_choices_ka[0],
    rcd: kind.usual_rcd,
  };
  return {
    circuit: {
      ...circuit,
      device: { ...base, rating_a, curve: (curve as "B") ?? null } as Circuit["device"],
    },
  };
}

function typedCable(circuit: Circuit, text: string, rules: RuleSetView): Typed {
  if (text.toLowerCase() === "auto") return { circuit: { ...circuit, cable: "auto" } };
  const name = text.replace(/\s*(mm2?²?|awg|kcmil)$/i, "").replace(",", ".");
  const old = circuit.cable && typeof circuit.cable !== "string" ? circuit.cable : undefined;
  const kind = rules.cables.find((known) => known.id === old?.type) ?? rules.cables[0];
  if (!kind) return { error: t("web.circuits.typed.no_cables") };
  const area = kind.sizes.find((size) => size.label === name)?.area_mm2;
  if (!area) {
    const sizes = kind.sizes.map((size) => size.label).join(", ");
    return {
      error: t("web.circuits.typed.size_unknown", {
        text,
        cable: kind.short,
        list: `${sizes} ${rules.size_unit}`,
      }),
    };
  }
  // A protective conductor stated for the old size does not go over to the new one, unless it is one of its own.
  const base = old ?? { type: kind.id, cpc: kind.cpc_choices[0] as "included" };
  const cpc_mm2 = old?.cpc === "separate" ? old.cpc_mm2 : null;
  return { circuit: { ...circuit, cable: { ...base, area_mm2: area, cpc_mm2 } } };
}

const M_PER_FT = 0.3048;

/** A length as it is typed, metres or feet, in metres. */
function readLength(text: string): number | null | undefined {
  const feet = /^(.*?)\s*(?:ft|feet|')$/i.exec(text.trim());
  if (!feet) return readFigure(text.replace(/\s*m$/i, ""));
  const figure = readFigure(feet[1] ?? "");
  return figure ? Number((figure * M_PER_FT).toFixed(2)) : undefined;
}

function typedLength(circuit: Circuit, text: string): Typed {
  const length = readLength(text);
  if (length === undefined || length === 0)
    return { error: t("web.circuits.typed.length_unknown", { text: text }) };
  const [only, ...more] = circuit.run;
  if (!only) return { error: t("web.circuits.typed.no_run") };
  if (more.length)
    return {
      error: t("web.circuits.typed.sections", { n: circuit.run.length }),
    };
  return { circuit: { ...circuit, run: [{ ...only, length_m: length }] } };
}

function typedLines(circuit: Circuit, text: string): Typed {
  const figures = [...new Set(text.replace(/[^0-9]/g, ""))].sort();
  const all = /^(l1[–-]3|3ph|all)$/i.test(text) ? ["1", "2", "3"] : figures;
  if (text && (!all.length || all.some((figure) => !"123".includes(figure)))) {
    return { error: t("web.circuits.typed.line_unknown", { text: text }) };
  }
  const lines = all.map((figure) => `L${figure}` as Line);
  return { circuit: onLines(circuit, lines) };
}

function typedMethod(circuit: Circuit, text: string, rules: RuleSetView): Typed {
  const words = text.split(/[\s+]+/).filter(Boolean);
  const methods = words.map((word) => methodNamed(word, rules));
  const names = methods.filter((name) => name !== undefined);
  const unknown = words.find((_, at) => methods[at] === undefined);
  if (!names.length || unknown) {
    return {
      error: t("web.circuits.typed.method_unknown", {
        text: unknown ?? text,
        list: rules.methods.map((method) => method.id).join(", "),
      }),
    };
  }
  // Where all sections have one method it is shown once, and typed once.
  const [only] = names;
  if (names.length === 1 && new Set(circuit.run.map(({ method }) => method)).size === 1)
    return {
      circuit: {
        ...circuit,
        run: circuit.run.map((section) => ({ ...section, method: only ?? section.method })),
      },
    };
  if (names.length !== circuit.run.length) {
    return {
      error: t("web.circuits.typed.method_count", { n: circuit.run.length }),
    };
  }
  return {
    circuit: {
      ...circuit,
      run: circuit.run.map((section, at) => ({ ...section, method: names[at] ?? section.method })),
    },
  };
}

/** A method by its id or by one of its words, whatever the case. */
function methodNamed(word: string, rules: RuleSetView): string | undefined {
  const plain = word.toLowerCase();
  const named = (known: RuleSetView["methods"][number]) =>
    [known.id, known.short, ...(known.entry_words ?? [])].some((name) => name?.toLowerCase() === plain);
  return rules.methods.find(named)?.id;
}

/** The next larger or smaller choice of a column that goes in steps; the same circuit where there is none. */
export function stepped(circuit: Circuit, edit: Edit, up: boolean, rules: RuleSetView): Circuit {
  const next = (values: number[], now: number) =>
    up ? values.find((value) => value > now) : values.findLast((value) => value < now);
  if (edit === "cable" && circuit.cable && typeof circuit.cable !== "string") {
    const cable = circuit.cable;
    const sizes = rules.cables.find((kind) => kind.id === cable.type)?.sizes_mm2 ?? [];
    const size = next(sizes, cable.area_mm2);
    const result = size ? typed(circuit, "cable", sizeLabel(rules, cable.type, size), rules) : undefined;
    return result && "circuit" in result ? result.circuit : circuit;
  }
  if (edit === "device" && circuit.device && typeof circuit.device !== "string") {
    const device = circuit.device;
    const ratings = rules.devices.find((kind) => kind.id === device.kind)?.common_ratings_a ?? [];
    const rating = next(ratings, device.rating_a);
    return rating ? { ...circuit, device: { ...device, rating_a: rating } } : circuit;
  }
  return circuit;
}
