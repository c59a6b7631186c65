import { answered, type Job } from "../api/client";
import { useJob } from "./JobContext";

/**
 * Takes the document that the server answers with as an edit of the open one. A failure is said, and the document stays; so it does
 * where it was edited since.
 */
export function useAnsweredEdit() {
  const { document, edit, notify } = useJob();
  return async (answer: Parameters<typeof answered<{ document: Job }>>[0]) => {
    try {
      edit((await answered(answer)).document, document);
    } catch (error) {
      notify((error as Error).message);
    }
  };
}
