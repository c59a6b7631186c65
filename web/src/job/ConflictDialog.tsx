import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { useJob } from "./JobContext";

function Changes({ title, lines }: { title: string; lines: string[] }) {
  return (
    <section className="min-w-0">
      <h3 className="mb-1 text-[13px] font-semibold">{title}</h3>
      <ul className="list-disc pl-5 text-[13px]">
        {lines.length ? lines.map((line) => <li key={line}>{line}</li>) : <li>nothing that can be seen</li>}
      </ul>
    </section>
  );
}

/** Two people, or two tabs, changed the same revision: what each did, and what shall stand. Nothing is lost. */
export function ConflictDialog() {
  const { conflict, openSaved, saveMine, saveAsNew } = useJob();
  if (!conflict) return null;
  if (conflict.gone) {
    return (
      <Dialog
        open
        title="This job is no longer in the database"
        description="A backup was restored that does not contain it. Your document is still here."
      >
        <Button variant="strong" onClick={() => void saveAsNew()}>
          Save it as a new job
        </Button>
      </Dialog>
    );
  }
  return (
    <Dialog
      open
      title="Changed elsewhere as well"
      description={`Revision ${conflict.head} was kept from another tab or machine while this one was being edited. Nothing was overwritten.`}
    >
      <div className="mb-4 grid gap-4 sm:grid-cols-2">
        <Changes title="There" lines={conflict.theirs} />
        <Changes title="Here, not kept yet" lines={conflict.yours} />
      </div>
      <div className="flex flex-col gap-2">
        <Button variant="strong" onClick={() => void openSaved(true)}>
          Open theirs, and keep mine as a job of its own
        </Button>
        <Button onClick={() => saveMine()}>
          Put mine on top as a new revision (theirs stays in the history)
        </Button>
        <Button onClick={() => void openSaved(false)}>Open theirs and drop mine</Button>
      </div>
    </Dialog>
  );
}
