import { Trash2 } from "lucide-react";
import type { Circuit, Spur } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { Button } from "../../ui/Button";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";
import { type Change, Part } from "./Part";

/** Branches off a ring or a radial, fused or not; the one that adds most is reckoned at the far end. */
export function SpursPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const spurs = circuit.spurs ?? [];
  if (
    circuit.kind === "distribution" ||
    (circuit.kind !== "ring" && circuit.kind !== "radial" && !spurs.length)
  )
    return null;
  const cable = circuit.cable && typeof circuit.cable !== "string" ? circuit.cable : undefined;
  const sizes = rules.cables.find((known) => known.id === cable?.type)?.sizes ?? [];
  const set = (at: number, part: Partial<Spur>) =>
    change({ spurs: spurs.map((spur, index) => (index === at ? { ...spur, ...part } : spur)) });
  return (
    <Part title="Spurs">
      {spurs.map((spur, at) => (
        <div key={at} className="mb-2 grid items-start gap-2 sm:grid-cols-[1fr_6rem_6rem_7rem_2rem]">
          <Field label="To">
            {(id) => (
              <TextBox
                id={id}
                value={spur.name}
                maxLength={120}
                onCommit={(name) => name.trim() && set(at, { name: name.trim() })}
              />
            )}
          </Field>
          <FigureField
            label="Length"
            unit="m"
            value={spur.length_m}
            onCommit={(length_m) => set(at, { length_m })}
          />
          <Choice
            label={`Size [${rules.size_unit}]`}
            value={String(spur.area_mm2)}
            options={sizes.map((size) => ({ value: String(size.area_mm2), label: size.label }))}
            onCommit={(size) => set(at, { area_mm2: Number(size) })}
          />
          <FigureField
            label="Fused at"
            unit="A"
            value={spur.fuse_a}
            empty="unfused"
            onCommit={(fuse_a) => set(at, { fuse_a })}
          />
          <Button
            variant="quiet"
            className="mt-5"
            aria-label={`Take spur ${spur.name} out`}
            onClick={() => change({ spurs: spurs.filter((_, index) => index !== at) })}
          >
            <Trash2 size={14} aria-hidden />
          </Button>
        </div>
      ))}
      {cable && (
        <Button onClick={() => change({ spurs: [...spurs, { name: "New spur", area_mm2: cable.area_mm2 }] })}>
          A spur
        </Button>
      )}
    </Part>
  );
}
