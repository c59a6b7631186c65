import { Trash2 } from "lucide-react";
import type { Circuit, Spur } from "../../api/client";
import { useJob } from "../../job/JobContext";
import { t } from "../../messages/text";
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
    <Part title={t("web.circuit.spurs.title")}>
      {spurs.map((spur, at) => (
        <div key={at} className="mb-2 grid items-start gap-2 sm:grid-cols-[1fr_6rem_6rem_7rem_2rem]">
          <Field label={t("web.circuit.spurs.name")}>
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
            label={t("web.circuit.spurs.length")}
            unit="m"
            value={spur.length_m}
            onCommit={(length_m) => set(at, { length_m })}
          />
          <Choice
            label={t("web.circuit.spurs.size", { size_unit: rules.size_unit })}
            value={String(spur.area_mm2)}
            options={sizes.map((size) => ({ value: String(size.area_mm2), label: size.label }))}
            onCommit={(size) => set(at, { area_mm2: Number(size) })}
          />
          <FigureField
            label={t("web.circuit.spurs.fuse")}
            unit="A"
            value={spur.fuse_a}
            empty={t("web.circuit.spurs.unfused")}
            onCommit={(fuse_a) => set(at, { fuse_a })}
          />
          <Button
            variant="quiet"
            className="mt-5"
            aria-label={t("web.circuit.spurs.remove", { name: spur.name })}
            onClick={() => change({ spurs: spurs.filter((_, index) => index !== at) })}
          >
            <Trash2 size={14} aria-hidden />
          </Button>
        </div>
      ))}
      {cable && (
        <Button
          onClick={() =>
            change({
              spurs: [...spurs, { name: t("web.circuit.spurs.default_name"), area_mm2: cable.area_mm2 }],
            })
          }
        >
          {t("web.circuit.spurs.add")}
        </Button>
      )}
    </Part>
  );
}
