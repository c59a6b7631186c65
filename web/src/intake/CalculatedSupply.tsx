import type { Supply } from "../api/client";
import { useJob } from "../job/JobProvider";
import { Button } from "../ui/Button";
import { Choice, FigureField } from "../ui/Field";
import { Card } from "./Card";

/** The supply worked out instead of measured: from a transformer and its cable, or for TT from rods in soil. */
export function CalculatedSupply() {
  const { document, edit } = useJob();
  const { supply } = document;
  const set = (part: Partial<Supply>) => edit({ ...document, supply: { ...supply, ...part } });
  const transformer = supply.transformer;
  const service = supply.service;
  const electrode = supply.electrode;
  if (!transformer && !electrode) {
    return (
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() =>
            set({
              transformer: { rated_kva: 160, impedance_pct: 4, resistance_pct: 1.2 },
              ze_ohm: supply.system === "TT" ? supply.ze_ohm : null,
              fault_current_ka: null,
              fault_current_lines_ka: null,
            })
          }
        >
          Calculate from a transformer
        </Button>
        {supply.system === "TT" && (
          <Button
            onClick={() =>
              set({
                electrode: { soil_ohm_m: 100, rod_length_m: 2.4, rod_diameter_mm: 14.2, rods: 1 },
                ze_ohm: null,
              })
            }
          >
            Calculate the electrode
          </Button>
        )}
      </div>
    );
  }
  return (
    <Card title="Calculated, until it is measured">
      {transformer && (
        <div className="mb-3 grid gap-3 sm:grid-cols-4">
          <FigureField
            label="Transformer"
            unit="kVA"
            required
            value={transformer.rated_kva}
            onCommit={(kva) => kva && set({ transformer: { ...transformer, rated_kva: kva } })}
          />
          <FigureField
            label="Impedance"
            unit="%"
            required
            value={transformer.impedance_pct}
            onCommit={(pct) => pct && set({ transformer: { ...transformer, impedance_pct: pct } })}
          />
          <FigureField
            label="of it resistance"
            unit="%"
            required
            value={transformer.resistance_pct}
            onCommit={(pct) => pct !== null && set({ transformer: { ...transformer, resistance_pct: pct } })}
            hint="From its load loss; 0 if not known."
          />
          <Button className="mt-5 self-start" onClick={() => set({ transformer: null, service: null })}>
            Measure instead
          </Button>
          <Choice
            label="Service cable"
            value={service?.material ?? ""}
            options={[
              { value: "", label: "none: board at the transformer" },
              { value: "aluminium", label: "aluminium" },
              { value: "copper", label: "copper" },
            ]}
            onCommit={(material) =>
              set({
                service: material
                  ? {
                      material: material as "copper",
                      area_mm2: service?.area_mm2 ?? 95,
                      length_m: service?.length_m ?? 50,
                    }
                  : null,
              })
            }
          />
          {service && (
            <>
              <FigureField
                label="Size"
                unit="mm²"
                required
                value={service.area_mm2}
                onCommit={(area_mm2) => area_mm2 && set({ service: { ...service, area_mm2 } })}
              />
              <FigureField
                label="Length"
                unit="m"
                required
                value={service.length_m}
                onCommit={(length_m) => length_m && set({ service: { ...service, length_m } })}
              />
              <FigureField
                label="Earth or PEN"
                unit="mm²"
                value={service.earth_mm2}
                empty="as the line"
                onCommit={(earth_mm2) => set({ service: { ...service, earth_mm2 } })}
              />
            </>
          )}
        </div>
      )}
      {electrode && (
        <div className="grid gap-3 sm:grid-cols-5">
          <FigureField
            label="Soil"
            unit="Ω·m"
            required
            value={electrode.soil_ohm_m}
            onCommit={(soil_ohm_m) => soil_ohm_m && set({ electrode: { ...electrode, soil_ohm_m } })}
          />
          <FigureField
            label="Rod length"
            unit="m"
            required
            value={electrode.rod_length_m}
            onCommit={(rod_length_m) => rod_length_m && set({ electrode: { ...electrode, rod_length_m } })}
          />
          <FigureField
            label="Rod diameter"
            unit="mm"
            required
            value={electrode.rod_diameter_mm}
            onCommit={(mm) => mm && set({ electrode: { ...electrode, rod_diameter_mm: mm } })}
          />
          <FigureField
            label="Rods"
            unit=""
            required
            value={electrode.rods}
            hint="A rod's length apart."
            onCommit={(rods) => rods && set({ electrode: { ...electrode, rods: Math.round(rods) } })}
          />
          <Button className="mt-5 self-start" onClick={() => set({ electrode: null })}>
            Measure instead
          </Button>
        </div>
      )}
      <p className="mt-2 text-[12.5px] text-soft">
        A calculated figure is for design. Measure before the supply is used, and enter the reading in its
        place.
      </p>
    </Card>
  );
}
