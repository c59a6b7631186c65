import { Check, CloudOff, Loader, TriangleAlert } from "lucide-react";
import type { SaveStatus } from "./saveFailure";

const SAID: Record<SaveStatus, { text: string; icon: typeof Check; look: string }> = {
  saved: { text: "kept", icon: Check, look: "text-soft" },
  saving: { text: "keeping …", icon: Loader, look: "text-soft" },
  unreachable: {
    text: "not kept yet: the server does not answer; trying again",
    icon: CloudOff,
    look: "text-fail",
  },
  unavailable: { text: "not saved yet, trying again", icon: CloudOff, look: "text-fail" },
  refused: { text: "not kept", icon: TriangleAlert, look: "text-fail" },
  conflict: { text: "not kept: changed elsewhere", icon: TriangleAlert, look: "text-fail" },
};

/** Whether the last change is safe. What is wrong, and what to do, is said over the page, so that nothing moves. */
export function SaveState({ state, why, revision }: { state: SaveStatus; why: string; revision: number }) {
  const { text, icon: Icon, look } = SAID[state];
  const told = state === "refused" || state === "unavailable" ? why : "";
  return (
    <>
      <output
        className={`flex items-center gap-1.5 text-[13px] ${look}`}
        data-testid="save-state"
        data-state={state}
      >
        <Icon size={14} aria-hidden />
        <span>
          revision <span className="figure">{revision}</span> · {text}
        </span>
      </output>
      {told && (
        <p
          role="alert"
          data-testid="save-problem"
          className="fixed bottom-4 left-1/2 z-30 w-[min(92vw,36rem)] -translate-x-1/2 rounded-lg border border-fail bg-sheet p-3 text-[13px] break-words shadow-lg"
        >
          {told}
        </p>
      )}
    </>
  );
}
