import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answered, client, type NewJob } from "../api/client";
import { reasons } from "../api/lines";
import { beginFromFile } from "../job/beginFromFile";

type View = "circuits" | "survey";

/** Begins a job and opens it: as stated, or from a job file. A table that is handed on is imported there. */
export function useBegin() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [error, setError] = useState<string[]>([]);
  const open = async (begun: Promise<{ job_id: string }>, view: View, table?: File) => {
    try {
      setError([]);
      const job = await begun;
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/jobs/${job.job_id}/${view}`, { state: table ? { table } : undefined });
    } catch (reason) {
      setError(reasons(reason));
    }
  };
  return {
    error,
    begin: (body: NewJob, view: View = "circuits", table?: File) =>
      void open(answered(client.POST("/api/jobs", { body })), view, table),
    beginFrom: (file: File) => void open(beginFromFile(file), "circuits"),
  };
}
