import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { type Key, t } from "../messages/text";
import { Dialog } from "../ui/Dialog";

/** The views in the order of the work: Alt with a number opens one. */
export const VIEWS: { path: string; title: Key }[] = [
  { path: "setup", title: "web.shell.tab.setup" },
  { path: "survey", title: "web.shell.tab.survey" },
  { path: "circuits", title: "web.shell.tab.circuits" },
  { path: "routes", title: "web.shell.tab.routes" },
  { path: "protection", title: "web.shell.tab.protection" },
  { path: "board", title: "web.shell.tab.board" },
  { path: "faults", title: "web.shell.tab.faults" },
  { path: "testing", title: "web.shell.tab.testing" },
  { path: "compare", title: "web.shell.tab.compare" },
  { path: "documents", title: "web.shell.tab.documents" },
];

const KEYS: { keys: string; does: Key }[] = [
  { keys: "/", does: "web.shortcuts.entry" },
  { keys: "↑ ↓ ← →", does: "web.shortcuts.move" },
  { keys: "+ −", does: "web.shortcuts.step" },
  { keys: "e", does: "web.shortcuts.circuit" },
  { keys: "1 – 9", does: "web.shortcuts.fix" },
  { keys: "M E R", does: "web.shortcuts.confirm" },
  { keys: "Ctrl+K", does: "web.shortcuts.palette" },
  { keys: "Ctrl+Z", does: "web.shortcuts.undo" },
  { keys: "?", does: "web.shortcuts.sheet" },
];

/** Keys that work in every view: Alt with a number for the views, `?` for the sheet of shortcuts. */
export function Shortcuts({ jobId }: { jobId: string }) {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        event.target.matches("input, textarea, select, [contenteditable]");
      const view = event.altKey && /^Digit[1-9]$/.test(event.code) && VIEWS[Number(event.code.slice(5)) - 1];
      if (view) {
        event.preventDefault();
        navigate(`/jobs/${jobId}/${view.path}`);
      } else if (event.key === "?" && !typing) {
        event.preventDefault();
        setOpen(true);
      }
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [jobId, navigate]);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={t("web.shortcuts.title")}
      description={t("web.shortcuts.text")}
    >
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[13px]">
        {VIEWS.map(({ title }, number) => (
          <Line key={title} keys={`Alt+${number + 1}`} does={t(title)} />
        ))}
        {KEYS.map(({ keys, does }) => (
          <Line key={does} keys={keys} does={t(does)} />
        ))}
      </dl>
    </Dialog>
  );
}

function Line({ keys, does }: { keys: string; does: string }) {
  return (
    <>
      <dt className="figure whitespace-nowrap">{keys}</dt>
      <dd>{does}</dd>
    </>
  );
}
