import { Slider } from "radix-ui";
import { type Key, t } from "../messages/text";
import { LEVELS } from "./planModel";

/** How much each thing counts, as positions of a slider. */
export type Levels = { worst_loss: number; devices: number; cost: number };

const NAMES: { id: keyof Levels; label: Key }[] = [
  { id: "worst_loss", label: "web.rcd_plans.weight_loss" },
  { id: "devices", label: "web.rcd_plans.weight_devices" },
  { id: "cost", label: "web.rcd_plans.weight_cost" },
];
const WORDS: Key[] = [
  "web.rcd_plans.level_0",
  "web.rcd_plans.level_1",
  "web.rcd_plans.level_2",
  "web.rcd_plans.level_3",
  "web.rcd_plans.level_4",
];

/** What a plan is for: three sliders, each with its position in a word. */
export function WeightSliders({ levels, onChange }: { levels: Levels; onChange: (levels: Levels) => void }) {
  return (
    <fieldset className="flex flex-wrap gap-x-6 gap-y-2">
      <legend className="mb-1 text-[12px] font-medium text-soft">{t("web.rcd_plans.weights")}</legend>
      {NAMES.map(({ id, label }) => {
        const word = t(WORDS[levels[id]] ?? "web.rcd_plans.level_2");
        return (
          <div key={id} className="w-52">
            <p className="flex justify-between text-[12.5px]">
              <span>{t(label)}</span>
              <span className="text-soft">{word}</span>
            </p>
            <Slider.Root
              className="relative flex h-5 touch-none select-none items-center"
              min={0}
              max={LEVELS - 1}
              step={1}
              value={[levels[id]]}
              onValueChange={([level = 0]) => onChange({ ...levels, [id]: level })}
            >
              <Slider.Track className="relative h-1 grow rounded-full bg-line">
                <Slider.Range className="absolute h-full rounded-full bg-accent" />
              </Slider.Track>
              <Slider.Thumb
                aria-label={t(label)}
                aria-valuetext={word}
                className="block size-4 rounded-full border border-accent bg-sheet"
              />
            </Slider.Root>
          </div>
        );
      })}
    </fieldset>
  );
}
