import { useJob } from "../job/JobContext";
import { swatchOf } from "../ui/conductors";

const NAMES = ["L1", "L2", "L3", "N", "PE"];

/** Conductor colours as they are now laid and as they are met in old work: a hint only, never a proof. */
export function Colours() {
  const { rules, document } = useJob();
  if (!rules.colours) return null;
  const lines = document.supply.phases ?? 1;
  const shown = (colours: string[]) =>
    colours.map((colour, at) => ({ colour, name: NAMES[at] ?? "" })).filter((_, at) => at < lines || at > 2);
  return (
    <span className="mt-1 flex flex-col gap-0.5">
      {(["now", "old"] as const).map((age) => (
        <span key={age} className="flex flex-wrap items-center gap-x-2 text-[12px]">
          <span className="w-8 text-soft">{age}</span>
          {shown(rules.colours?.[age] ?? []).map(({ colour, name }) => (
            <span key={name} className="flex items-center gap-1">
              <span
                aria-hidden
                className="inline-block h-2.5 w-4 rounded-sm border border-line"
                style={{ background: swatchOf(colour) }}
              />
              {name} {colour}
            </span>
          ))}
        </span>
      ))}
    </span>
  );
}
