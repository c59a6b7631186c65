import { Link } from "react-router";
import type { Supply } from "../api/client";
import { useJob } from "../job/JobContext";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";
import { Boards } from "./Boards";
import { CalculatedSupply } from "./CalculatedSupply";
import { Card } from "./Card";
import { Colours } from "./Colours";
import { Demand } from "./Demand";
import { EarthingCard } from "./EarthingCard";
import { PhaseBalance } from "./PhaseBalance";
import { PhasesChoice } from "./PhasesChoice";
import { Rooms } from "./Rooms";
import { RuleChoices } from "./RuleChoices";
import { SetupDrawing } from "./SetupDrawing";
import { TailsCard } from "./TailsCard";

const SOURCES = [
  { value: "", label: "not said" },
  { value: "measured", label: "measured" },
  { value: "enquiry", label: "by enquiry" },
  { value: "declared", label: "declared figure" },
];

const DROP_LIMITS = [
  { name: "lighting_drop_limit_pct", label: "Own drop limit, lighting" },
  { name: "other_drop_limit_pct", label: "Own drop limit, other uses" },
] as const;

/** What arrives: supply, cut-out, tails, boards and rooms. Each missing figure says who can supply it. */
export function Setup() {
  const { document, rules, edit } = useJob();
  const { supply, settings } = document;
  const set = (part: Partial<Supply>) => edit({ ...document, supply: { ...supply, ...part } });
  const declared = rules.declared_ze_ohm[supply.system];
  const atOrigin = rules.devices.filter(
    (kind) => !kind.has_rcd && kind.ratings_a.some((rating) => rating >= 60),
  );

  const cutout = supply.cutout;
  const cutoutKind = rules.devices.find((kind) => kind.id === cutout?.kind);
  return (
    <main className="min-h-0 flex-1 overflow-auto px-4 py-4">
      <div className="mx-auto grid max-w-6xl gap-6 lg:grid-cols-[1fr_400px]">
        <div className="flex flex-col gap-6">
          <Card title="The job">
            <div className="grid gap-3 sm:grid-cols-2">
              {(["title", "client", "site"] as const).map((name) => (
                <Field key={name} label={{ title: "Title", client: "Client", site: "Site" }[name]}>
                  {(id) => (
                    <TextBox
                      id={id}
                      value={document.job[name] ?? ""}
                      maxLength={name === "site" ? 240 : 120}
                      onCommit={(text) =>
                        (name !== "title" || text.trim()) &&
                        edit({ ...document, job: { ...document.job, [name]: text } })
                      }
                    />
                  )}
                </Field>
              ))}
              <p className="self-end text-[13px] text-soft">
                Rules: {rules.edition}, {rules.title.split(",")[0]}.{" "}
                <Link to="/standards" className="text-accent underline">
                  All schools
                </Link>
                <Colours />
              </p>
            </div>
          </Card>
          <Card title="Supply">
            <div className="grid gap-3 sm:grid-cols-3">
              <Choice
                label="Earthing arrangement"
                value={supply.system}
                options={rules.systems.map((system) => ({ value: system.id, label: system.title }))}
                onCommit={(system) => set({ system: system as Supply["system"] })}
                hint="Seen at the origin; ask the distributor if in doubt."
              />
              <FigureField
                label="Ze, external earth loop"
                unit="Ω"
                value={supply.ze_ohm}
                onCommit={(ze_ohm) => set({ ze_ohm })}
                hint={
                  declared
                    ? `At the first board's incoming terminals: measure it, or ask. ${declared} Ω is usually declared for ${supply.system}.`
                    : "At the first board's incoming terminals: measure it, or ask."
                }
              />
              <Choice
                label="Ze is"
                value={supply.ze_source ?? ""}
                options={SOURCES}
                onCommit={(source) => set({ ze_source: (source || null) as Supply["ze_source"] })}
              />
              <PhasesChoice />
              <FigureField
                label="Prospective fault current"
                unit="kA"
                value={supply.fault_current_ka}
                onCommit={(fault_current_ka) => set({ fault_current_ka })}
                hint="The larger of line to neutral and line to earth, at the incoming terminals."
              />
              <Choice
                label="It is"
                value={supply.fault_current_source ?? ""}
                options={SOURCES}
                onCommit={(source) =>
                  set({ fault_current_source: (source || null) as Supply["fault_current_source"] })
                }
              />
              {(supply.phases ?? 1) > 1 && (
                <FigureField
                  label="Fault current between lines"
                  unit="kA"
                  value={supply.fault_current_lines_ka}
                  empty={supply.phases === 3 ? "twice the other" : "as the other"}
                  hint="All lines shorted at the incoming terminals."
                  onCommit={(fault_current_lines_ka) => set({ fault_current_lines_ka })}
                />
              )}
              <Choice
                label={capital(rules.vocabulary.origin ?? "cut-out")}
                value={cutout?.kind ?? ""}
                options={[
                  { value: "", label: "not known" },
                  ...atOrigin.map((kind) => ({
                    value: kind.id,
                    label: `${kind.standard}, ${kind.title}`,
                  })),
                ]}
                onCommit={(kind) =>
                  set({ cutout: kind ? { kind, rating_a: cutout?.rating_a ?? 100 } : null })
                }
                hint="It is the distributor's: read the carrier, do not pull it."
              />
              {cutout && cutoutKind && (
                <Choice
                  label="Its rating [A]"
                  value={String(cutout.rating_a)}
                  options={[...new Set([...cutoutKind.ratings_a, cutout.rating_a])]
                    .sort((a, b) => a - b)
                    .map((rating) => ({ value: String(rating), label: String(rating) }))}
                  onCommit={(rating) => set({ cutout: { ...cutout, rating_a: Number(rating) } })}
                />
              )}
            </div>
          </Card>
          <TailsCard />
          <CalculatedSupply />
          <EarthingCard />
          <Boards />
          <Rooms />
          <Card title="Choices the rules leave open">
            <label className="mb-3 flex items-start gap-2 text-[13px]">
              <input
                type="checkbox"
                className="mt-0.5"
                checked={settings?.drop_at_operating_temperature ?? false}
                onChange={(event) =>
                  edit({
                    ...document,
                    settings: { ...settings, drop_at_operating_temperature: event.target.checked },
                  })
                }
              />
              <span>
                Correct voltage drop for conductors that run cooler than their limit (factor Ct).
                <span className="block text-soft">Off: the tabulated figure, on the safe side.</span>
              </span>
            </label>
            <RuleChoices />
            <div className="grid gap-3 sm:grid-cols-3">
              {DROP_LIMITS.map(({ name, label }) => (
                <FigureField
                  key={name}
                  label={label}
                  unit="%"
                  value={settings?.[name]}
                  empty="by the rules"
                  hint="Only ever tighter than the rules."
                  onCommit={(limit) => edit({ ...document, settings: { ...settings, [name]: limit } })}
                />
              ))}
            </div>
          </Card>
        </div>
        <aside className="flex flex-col gap-4">
          <SetupDrawing />
          <Demand />
          <PhaseBalance />
          <ul className="flex list-disc flex-col gap-1 pl-5 text-[12.5px] text-soft" aria-label="Cautions">
            {rules.cautions.map((caution) => (
              <li key={caution}>{caution}</li>
            ))}
          </ul>
        </aside>
      </div>
    </main>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
