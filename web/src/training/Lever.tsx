import { Lock, LockOpen } from "lucide-react";
import type { Act } from "../api/client";
import { t } from "../messages/text";
import { Button } from "../ui/Button";

const STATE = {
  on: "web.training.state.on",
  off: "web.training.state.off",
  tripped: "web.training.state.tripped",
} as const;

/** A device with its lever, up while it is on, in the middle when it tripped; and its lock. */
export function Lever({
  device,
  label,
  off,
  tripped,
  locked,
  act,
}: {
  device: string;
  label: string;
  off: boolean;
  tripped: boolean;
  locked: boolean;
  act: (...acts: Act[]) => void;
}) {
  const state = off ? "off" : tripped ? "tripped" : "on";
  const Icon = locked ? Lock : LockOpen;
  return (
    <>
      <button
        type="button"
        role="switch"
        aria-checked={state === "on"}
        aria-label={t("web.training.device", { label, state: t(STATE[state]) })}
        data-state={state}
        onClick={() => act({ act: "switch", device, on: state !== "on" })}
        className="relative h-9 w-11 shrink-0 rounded border border-line bg-ground text-[11px]"
      >
        <span
          aria-hidden
          className={`absolute inset-x-1 h-3.5 rounded-sm ${state === "on" ? "top-1 bg-accent" : state === "off" ? "bottom-1 bg-soft" : "top-2.5 bg-fail"}`}
        />
        <span className="sr-only">{label}</span>
      </button>
      <Button
        variant="quiet"
        aria-pressed={locked}
        aria-label={t(locked ? "web.training.unlock" : "web.training.lock", { label })}
        onClick={() => act({ act: "lock", device, locked: !locked })}
      >
        <Icon size={16} aria-hidden className={locked ? "text-accent" : "text-soft"} />
      </Button>
    </>
  );
}
