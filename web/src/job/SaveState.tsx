import { Check, CloudOff, Loader, TriangleAlert } from "lucide-react";
import { t } from "../messages/text";
import type { SaveStatus } from "./saveFailure";

const SAID: Record<SaveStatus, { text: string; icon: typeof Check; look: string }> = {
  saved: {
    get text() {
      return t("web.save.saved");
    },
    icon: Check,
    look: "text-soft",
  },
  saving: {
    get text() {
      return t("web.save.saving");
    },
    icon: Loader,
    look: "text-soft",
  },
  unreachable: {
    get text() {
      return t("web.save.offline");
    },
    icon: CloudOff,
    look: "text-fail",
  },
  unavailable: {
    get text() {
      return t("web.save.unavailable");
    },
    icon: CloudOff,
    look: "text-fail",
  },
  refused: {
    get text() {
      return t("web.save.rejected");
    },
    icon: TriangleAlert,
    look: "text-fail",
  },
  conflict: {
    get text() {
      return t("web.save.conflict");
    },
    icon: TriangleAlert,
    look: "text-fail",
  },
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
        <span>{t("web.save.line", { n: revision, state: text })}</span>
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
