import type { Job } from "../api/client";
import { VIEWS } from "../job/Shortcuts";
import { type Key, t } from "../messages/text";

/** Something the palette can do: what it is called, of which kind, and how it is done. */
export type Command = { id: string; title: string; kind: Key; run: () => void };

/** What a palette works with. */
export type Doing = {
  document: Job;
  /** To a place of the job: its path, and what is shown there at once. */
  go: (path: string, state?: { circuit?: string; entry?: boolean }) => void;
  actions: { id: string; title: Key; run: () => void }[];
};

/** Sections of Setup, by the title of each. */
const SETTINGS: Key[] = [
  "web.setup.job.title",
  "web.setup.supply.title",
  "web.setup.earthing.title",
  "web.setup.rooms.title",
  "web.setup.options.title",
];

/** Everything that can be reached or done in a job, in the order in which it is offered. */
export function commandsOf({ document, go, actions }: Doing): Command[] {
  return [
    ...VIEWS.map(({ path, title }) => ({
      id: `view ${path}`,
      title: t(title),
      kind: "web.palette.view" as const,
      run: () => go(path),
    })),
    ...(document.circuits ?? []).map((circuit) => ({
      id: `circuit ${circuit.id}`,
      title: circuit.name,
      kind: "web.palette.circuit" as const,
      run: () => go("circuits", { circuit: circuit.id }),
    })),
    ...actions.map(({ id, title, run }) => ({
      id: `action ${id}`,
      title: t(title),
      kind: "web.palette.action" as const,
      run,
    })),
    ...SETTINGS.map((title) => ({
      id: `setting ${title}`,
      title: t(title),
      kind: "web.palette.setting" as const,
      run: () => go(`setup?section=${encodeURIComponent(t(title))}`),
    })),
  ];
}

/** The commands that have every word of a text in their title or kind; those whose title begins with it first. */
export function matching(commands: Command[], text: string): Command[] {
  const wanted = text.toLowerCase().trim();
  const words = wanted.split(/\s+/);
  const all = commands.filter((command) => {
    const title = `${command.title} ${t(command.kind)}`.toLowerCase();
    return words.every((word) => title.includes(word));
  });
  const first = all.filter((command) => command.title.toLowerCase().startsWith(wanted));
  return [...first, ...all.filter((command) => !first.includes(command))];
}
