import { answered, type Job } from "../api/client";
import { useJob } from "../job/JobContext";

/** Takes the document that the server answers with as an edit of the open one; a failure is said, and the document stays. */
export function useAnsweredEdit() {
  const { edit, notify } = useJob();
  return async (answer: Parameters<typeof answered<{ document: Job }>>[0]) => {
    try {
      edit((await answered(answer)).document);
    } catch (error) {
      notify((error as Error).message);
    }
  };
}
