import { queryOptions } from "@tanstack/react-query";
import { answered, client, type Job, type Range } from "./client";

/** All jobs. */
export const jobsQuery = queryOptions({
  queryKey: ["jobs"],
  queryFn: () => answered(client.GET("/api/jobs")),
});

/** The demo jobs there are. */
export const demosQuery = queryOptions({
  queryKey: ["demos"],
  queryFn: () => answered(client.GET("/api/demos")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** The open revision of a job, as it was when the page was opened. */
export const jobQuery = (jobId: string) =>
  queryOptions({
    queryKey: ["job", jobId],
    queryFn: () => answered(client.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId } } })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    retry: false,
  });

/** The history of a job; asked anew at every revision. */
export const historyQuery = (jobId: string, revision: number) =>
  queryOptions({
    queryKey: ["history", jobId, revision],
    queryFn: () =>
      answered(client.GET("/api/jobs/{job_id}/revisions", { params: { path: { job_id: jobId } } })),
  });

/** What a rule set offers. */
export const rulesQuery = (rulesId: string) =>
  queryOptions({
    queryKey: ["rules", rulesId],
    queryFn: () => answered(client.GET("/api/rules/{rules_id}", { params: { path: { rules_id: rulesId } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What would mend a cell of a document. The document's version stands for it in the key. */
export const remediesQuery = (
  document: Job,
  version: number,
  check: string,
  circuit: string,
  wanted: boolean,
) =>
  queryOptions({
    queryKey: ["remedies", version, check, circuit],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/remedies", { body: { document, cell: { check, circuit } }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** All rule sets, and what they differ in. */
export const rulesListQuery = queryOptions({
  queryKey: ["rules"],
  queryFn: () => answered(client.GET("/api/rules")),
  staleTime: Number.POSITIVE_INFINITY,
});

export const differencesQuery = queryOptions({
  queryKey: ["differences"],
  queryFn: () => answered(client.GET("/api/rules/differences")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** What of a circuit may be moved. */
export const rangesQuery = (document: Job, version: number, circuit: string, wanted: boolean) =>
  queryOptions({
    queryKey: ["ranges", version, circuit],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/whatif/ranges", { body: { document, circuit }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** A quantity of a circuit along its range. */
export const whatIfQuery = (
  document: Job,
  version: number,
  circuit: string,
  quantity: Range["quantity"],
  wanted: boolean,
) =>
  queryOptions({
    queryKey: ["whatif", version, circuit, quantity],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/whatif", { body: { document, circuit, quantity }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** What a larger service asks for. */
export const upgradeQuery = (document: Job, version: number, wanted: boolean) =>
  queryOptions({
    queryKey: ["upgrade", version],
    queryFn: ({ signal }) => answered(client.POST("/api/upgrade", { body: { document }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** How far each size of a circuit's cable goes. */
export const lengthsQuery = (document: Job, version: number, circuit: string, wanted: boolean) =>
  queryOptions({
    queryKey: ["lengths", version, circuit],
    queryFn: ({ signal }) => answered(client.POST("/api/lengths", { body: { document, circuit }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });
