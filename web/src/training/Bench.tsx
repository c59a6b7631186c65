import { Lightbulb, LightbulbOff, Lock, LockOpen, Plug, Unplug } from "lucide-react";
import type { Act, PlayView } from "../api/client";
import { t } from "../messages/text";
import { Button } from "../ui/Button";

type Do = (...acts: Act[]) => void;
type Circuit = PlayView["circuits"][number];

/** The board and the house: what is on, off, tripped, locked, open; and what can be done at each circuit. */
export function Bench({ view, act }: { view: PlayView; act: Do }) {
  return (
    <section aria-label={t("web.training.bench")}>
      <div className="flex flex-wrap items-center gap-2 rounded-lg border border-line bg-sheet p-2">
        <Device
          label={t("web.training.main")}
          off={view.main_off}
          tripped={false}
          onToggle={() => act({ act: "switch", device: "", on: view.main_off })}
        />
        <LockButton
          label={t("web.training.main")}
          locked={view.main_locked}
          onToggle={() => act({ act: "lock", device: "", locked: !view.main_locked })}
        />
        <span className="flex-1 font-medium">{t("web.training.main")}</span>
        <Button onClick={() => act({ act: "prove-indicator" })} aria-pressed={view.indicator}>
          {t("web.training.prove_indicator")}
        </Button>
        <Button onClick={() => act({ act: "null" })} aria-pressed={view.nulled}>
          {t("web.training.null")}
        </Button>
        <Button disabled={view.hints_left < 1} onClick={() => act({ act: "hint" })}>
          {t("web.training.hint", { n: view.hints_left })}
        </Button>
      </div>
      <ul className="mt-2 flex flex-col gap-2">
        {view.circuits.map((circuit) => (
          <Row key={circuit.id} circuit={circuit} act={act} />
        ))}
      </ul>
    </section>
  );
}

function Row({ circuit, act }: { circuit: Circuit; act: Do }) {
  const { id, name } = circuit;
  const [Live, Dead] = circuit.lights ? [Lightbulb, LightbulbOff] : [Plug, Unplug];
  const Icon = circuit.live ? Live : Dead;
  return (
    <li data-circuit={id} data-live={circuit.live} className="rounded-lg border border-line bg-sheet p-2">
      <div className="flex flex-wrap items-center gap-2">
        <Device
          label={name}
          off={circuit.off}
          tripped={circuit.tripped}
          onToggle={() => act({ act: "switch", device: id, on: circuit.off || circuit.tripped })}
        />
        <LockButton
          label={name}
          locked={circuit.locked}
          onToggle={() => act({ act: "lock", device: id, locked: !circuit.locked })}
        />
        <span className="figure text-[12.5px] text-soft">{circuit.device}</span>
        <span className="flex-1 font-medium">{name}</span>
        <span className="flex items-center gap-1 text-[12.5px]">
          <Icon size={16} aria-hidden className={circuit.live ? "text-accent" : "text-soft"} />
          {t(circuit.live ? "web.training.has_supply" : "web.training.no_supply")}
        </span>
      </div>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button onClick={() => act({ act: "prove-dead", circuit: id })} aria-pressed={circuit.proved}>
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
      </div>
    </li>
  );
}

const STATE = {
  on: "web.training.state.on",
  off: "web.training.state.off",
  tripped: "web.training.state.tripped",
} as const;

/** A device with its lever: up while it is on, in the middle when it tripped. */
function Device({
  label,
  off,
  tripped,
  onToggle,
}: {
  label: string;
  off: boolean;
  tripped: boolean;
  onToggle: () => void;
}) {
  const state = tripped ? "tripped" : off ? "off" : "on";
  return (
    <button
      type="button"
      role="switch"
      aria-checked={state === "on"}
      aria-label={t("web.training.device", { label, state: t(STATE[state]) })}
      data-state={state}
      onClick={onToggle}
      className="relative h-9 w-14 rounded border border-line bg-ground text-[11px]"
    >
      <span
        aria-hidden
        className={`absolute inset-x-1 h-3.5 rounded-sm ${state === "on" ? "top-1 bg-accent" : state === "off" ? "bottom-1 bg-soft" : "top-2.5 bg-fail"}`}
      />
      <span className="sr-only">{label}</span>
    </button>
  );
}

function LockButton({ label, locked, onToggle }: { label: string; locked: boolean; onToggle: () => void }) {
  const Icon = locked ? Lock : LockOpen;
  return (
    <Button
      variant="quiet"
      aria-pressed={locked}
      aria-label={t(locked ? "web.training.unlock" : "web.training.lock", { label })}
      onClick={onToggle}
    >
      <Icon size={16} aria-hidden />
    </Button>
  );
}
