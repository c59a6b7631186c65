import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { client } from "../api/client";
import { useJob } from "../job/JobContext";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { startTour } from "../tour/tourModel";
import { commandsOf } from "./commands";
import { Palette } from "./Palette";

/** The palette of the open job: Ctrl+K shows it from every view. */
export function JobPalette({ onHistory, onTheme }: { onHistory: () => void; onTheme: () => void }) {
  const { jobId, document, undo, redo } = useJob();
  const answeredEdit = useAnsweredEdit();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);

  const go = (path: string, state?: object) => navigate(`/jobs/${jobId}/${path}`, { state });
  const design = () => answeredEdit(client.POST("/api/design", { body: { document } }));
  const commands = () =>
    commandsOf({
      document,
      go,
      actions: [
        { id: "add", title: "web.palette.add_circuit", run: () => go("circuits", { entry: true }) },
        { id: "design", title: "web.palette.design", run: () => void design() },
        { id: "undo", title: "web.shell.undo", run: () => void undo() },
        { id: "redo", title: "web.shell.redo", run: () => void redo() },
        { id: "history", title: "web.shell.history", run: onHistory },
        { id: "theme", title: "web.shell.theme_switch", run: onTheme },
        { id: "tour", title: "web.tour.start", run: () => startTour(navigate, jobId) },
        { id: "jobs", title: "web.shell.all_jobs", run: () => navigate("/") },
      ],
    });
  return <Palette open={open} onOpenChange={setOpen} commands={commands} />;
}
