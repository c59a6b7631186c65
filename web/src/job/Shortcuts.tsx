import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { type Key, t } from "../messages/text";
import { Dialog } from "../ui/Dialog";

/** The views in the order of the work. Alt with its key opens one: keys stay as they were learnt when a view comes in between. */
export const VIEWS: { path: string; title: Key; key: string }[] = [
  { path: "setup", title: "web.shell.tab.setup", key: "1" },
  { path: "survey", title: "web.shell.tab.survey", key: "2" },
  { path: "circuits", title: "web.shell.tab.circuits", key: "3" },
  { path: "routes", title: "web.shell.tab.routes", key: "0" },
  { path: "protection", title: "web.shell.tab.protection", key: "4" },
  { path: "board", title: "web.shell.tab.board", key: "5" },
  { path: "faults", title: "web.shell.tab.faults", key: "6" },
  { path: "testing", title: "web.shell.tab.testing", key: "7" },
  { path: "compare", title: "web.shell.tab.compare", key: "8" },
  { path: "quote", title: "web.shell.tab.quote", key: "Q" },
  { path: "documents", title: "web.shell.tab.documents", key: "9" },
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
      const view =
        event.altKey && VIEWS.find(({ key }) => event.code === `Digit${key}` || event.code === `Key${key}`);
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
        {VIEWS.map(({ title, key }) => (
          <Line key={title} keys={`Alt+${key}`} does={t(title)} />
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
