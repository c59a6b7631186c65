import { ChevronDown, ChevronRight } from "lucide-react";
import type { Act, PlayView } from "../api/client";
import { type Key, t } from "../messages/text";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Field";
import { Lane } from "./Lane";
import { Lever } from "./Lever";
import { options } from "./options";

type Circuit = PlayView["circuits"][number];
type Detector = NonNullable<Extract<Act, { act: "prove-dead" }>["by"]>;
type Link = Circuit["link"];

const LINKS: Record<Link, Key> = {
  none: "web.training.link.none",
  "line-earth": "web.training.link.line_earth",
  "line-neutral": "web.training.link.line_neutral",
  "crossed-neutral": "web.training.link.crossed_neutral",
  "crossed-earth": "web.training.link.crossed_earth",
};

/** A circuit: its device, its lane into the house; and, while it is chosen, what can be done at it. */
export function BenchCircuit({
  circuit,
  chosen,
  onChoose,
  detector,
  links,
  act,
}: {
  circuit: Circuit;
  chosen: boolean;
  onChoose: () => void;
  detector: Detector;
  links: boolean;
  act: (...acts: Act[]) => void;
}) {
  const { id, name } = circuit;
  const Icon = chosen ? ChevronDown : ChevronRight;
  return (
    <li
      data-circuit={id}
      data-live={circuit.live}
      className={`rounded-lg border bg-sheet p-1.5 ${chosen ? "border-accent" : "border-line"}`}
    >
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
        <Lever
          device={id}
          label={name}
          off={circuit.off}
          tripped={circuit.tripped}
          locked={circuit.locked}
          act={act}
        />
        <button
          type="button"
          aria-expanded={chosen}
          onClick={onChoose}
          className="flex w-40 items-center gap-1 rounded text-left"
        >
          <Icon size={14} aria-hidden className="shrink-0 text-soft" />
          <span className="min-w-0">
            <span className="block truncate font-medium">{name}</span>
            <span className="figure block text-[11.5px] text-soft">{circuit.device}</span>
          </span>
        </button>
        <Lane circuit={circuit} />
      </div>
      <State circuit={circuit} />
      {chosen && (
        <div className="mt-1.5">
          <div className="flex flex-wrap items-end gap-1.5">
            <Button
              onClick={() => act({ act: "prove-dead", circuit: id, by: detector })}
              aria-pressed={circuit.proved}
            >
              {t(
                circuit.proved
                  ? "web.training.is_proved"
                  : circuit.tested
                    ? "web.training.is_tested"
                    : "web.training.prove_dead",
              )}
            </Button>
            <Button onClick={() => act({ act: "open", circuit: id, opened: !circuit.open })}>
              {t(circuit.open ? "web.training.close" : "web.training.open")}
            </Button>
            <Button onClick={() => act({ act: "look", circuit: id })}>{t("web.training.look")}</Button>
            <Button onClick={() => act({ act: "take-off", circuit: id, off: !circuit.taken_off })}>
              {t(circuit.taken_off ? "web.training.put_back" : "web.training.take_off")}
            </Button>
            <Button
              onClick={() => act({ act: "disconnect-neutral", circuit: id, off: !circuit.neutral_off })}
            >
              {t(circuit.neutral_off ? "web.training.neutral_back" : "web.training.neutral_off")}
            </Button>
            {links && (
              <div className="w-60">
                <Choice
                  label={t("web.training.link")}
                  value={circuit.link}
                  options={options(LINKS).filter(
                    ({ value }) => circuit.house.ring || !value.startsWith("crossed"),
                  )}
                  onCommit={(link) => act({ act: "link", circuit: id, link: link as Link })}
                />
              </div>
            )}
          </div>
        </div>
      )}
    </li>
  );
}

/** What is not as usual at a circuit, in words. */
function State({ circuit }: { circuit: Circuit }) {
  const states = circuit.house.points.map(({ state }) => state);
  const dead = states.filter((state) => state === "dead").length;
  const told = [
    circuit.live ? "" : t("web.training.no_supply"),
    circuit.live && dead ? t("web.training.state.dead", { n: dead, of: states.length }) : "",
    states.includes("dim") ? t("web.training.state.dim") : "",
    states.includes("bright") ? t("web.training.state.bright") : "",
    circuit.proved ? t("web.training.state.proved") : circuit.tested ? t("web.training.state.tested") : "",
    circuit.open ? t("web.training.state.open") : "",
    circuit.taken_off ? t("web.training.state.taken_off") : "",
    circuit.neutral_off ? t("web.training.state.neutral_off") : "",
    circuit.link === "none" ? "" : t(LINKS[circuit.link]),
  ].filter(Boolean);
  return told.length ? <p className="pl-24 text-[12px] text-soft">{told.join(" · ")}</p> : null;
}
