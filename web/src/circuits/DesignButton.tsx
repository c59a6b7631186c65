import { Wand2 } from "lucide-react";
import { useState } from "react";
import { answered, client } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { decided } from "./gridModel";

/** What was left to the design: how many choices are open, and the button that has them made. */
export function DesignButton({ onSaid }: { onSaid: (text: string) => void }) {
  const { document, edit, notify } = useJob();
  const [busy, setBusy] = useState(false);
  const open = (document.circuits ?? []).filter(({ cable, device }) => cable === "auto" || device === "auto");
  if (!open.length) return null;

  const choose = async () => {
    setBusy(true);
    try {
      const designed = await answered(client.POST("/api/design", { body: { document } }));
      const names = new Map((document.circuits ?? []).map((circuit) => [circuit.id, circuit.name]));
      onSaid(designed.decisions.map((made) => `${names.get(made.circuit)}: ${decided(made)}`).join(" "));
      edit(designed.document);
    } catch (error) {
      notify((error as Error).message);
    } finally {
      setBusy(false);
    }
  };

  return (
    <Button disabled={busy} onClick={() => void choose()} title={t("web.circuits.design.hint")}>
      <Wand2 size={14} aria-hidden /> {t("web.circuits.design.button", { n: open.length })}
    </Button>
  );
}
