import { Trash2 } from "lucide-react";
import type { Supply } from "../api/client";
import { useJob } from "../job/JobProvider";
import { Answer } from "../lattice";
import { Button } from "../ui/Button";
import { Field, FigureField, TextBox } from "../ui/Field";
import { Card } from "./Card";

type Earthing = NonNullable<Supply["earthing"]>;
const BLANK: Earthing = { electrode: false, bonds: [] };

/** The main earth: its conductor, the link to the neutral, what is bonded, and whether that is enough. */
export function EarthingCard() {
  const { document, rules, edit, assessment } = useJob();
  const { supply } = document;
  const earthing = supply.earthing ?? BLANK;
  const set = (part: Partial<Earthing>) =>
    edit({ ...document, supply: { ...supply, earthing: { ...earthing, ...part } } });
  const bonds = earthing.bonds ?? [];
  const setBond = (at: number, part: Partial<(typeof bonds)[number]>) =>
    set({ bonds: bonds.map((bond, index) => (index === at ? { ...bond, ...part } : bond)) });
  const found = (check: string) =>
    assessment?.findings.find((one) => one.subject.kind === "supply" && one.check === check);
  const {
    link = "neutral-earth link",
    bonding = "bonding",
    earthing_conductor = "earthing conductor",
  } = rules.words;
  const hasLink = supply.system === "MEN" || rules.size_unit === "AWG";
  return (
    <Card title="Earth and bonding">
      <div className="grid gap-3 sm:grid-cols-3">
        <FigureField
          label={capital(earthing_conductor)}
          unit="mm²"
          value={earthing.conductor_mm2}
          onCommit={(conductor_mm2) => set({ conductor_mm2 })}
        />
        {hasLink && (
          <FigureField
            label={capital(link)}
            unit="mm²"
            value={earthing.link_mm2}
            onCommit={(link_mm2) => set({ link_mm2 })}
          />
        )}
        {supply.system === "TN-C-S" && !hasLink && (
          <FigureField
            label="PEN conductor"
            unit="mm²"
            value={earthing.pen_mm2}
            empty="the distributor's"
            onCommit={(pen_mm2) => set({ pen_mm2 })}
          />
        )}
        <label className="flex items-center gap-2 self-end pb-1 text-[13px]">
          <input
            type="checkbox"
            checked={earthing.electrode ?? false}
            onChange={(event) => set({ electrode: event.target.checked })}
          />
          runs to an electrode alone
        </label>
      </div>
      <h3 className="mb-1 mt-3 text-[12px] font-semibold text-soft">{capital(bonding)}</h3>
      <ul className="flex flex-col gap-2">
        {bonds.map((bond, at) => (
          <li key={at} className="grid grid-cols-[1fr_8rem_2rem] items-end gap-2">
            <Field label="Metalwork">
              {(id) => (
                <TextBox
                  id={id}
                  value={bond.name}
                  maxLength={120}
                  onCommit={(name) => name.trim() && setBond(at, { name: name.trim() })}
                />
              )}
            </Field>
            <FigureField
              label="Size"
              unit="mm²"
              value={bond.area_mm2}
              onCommit={(area_mm2) => setBond(at, { area_mm2 })}
            />
            <Button
              look="quiet"
              aria-label={`Take ${bond.name} out`}
              onClick={() => set({ bonds: bonds.filter((_, index) => index !== at) })}
            >
              <Trash2 size={14} aria-hidden />
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        {["water pipe", "gas pipe", "oil pipe", "heating pipes", "steelwork"]
          .filter((name) => !bonds.some((bond) => bond.name === name))
          .map((name) => (
            <Button key={name} onClick={() => set({ bonds: [...bonds, { name }] })}>
              + {name}
            </Button>
          ))}
        {!supply.earthing && <Button onClick={() => set({ bonds: [] })}>Nothing has to be bonded</Button>}
      </div>
      <div className="mt-3 grid gap-4 sm:grid-cols-2">
        {["earthing", "bonding"].map((check) => {
          const finding = found(check);
          return finding ? <Answer key={check} finding={finding} onTake={() => undefined} /> : null;
        })}
      </div>
    </Card>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
