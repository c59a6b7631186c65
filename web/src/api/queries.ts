import { keepPreviousData, queryOptions, replaceEqualDeep } from "@tanstack/react-query";
import { type Draft, setDraftAside, takeDraft } from "../job/draft";
import { orCopy } from "../offline/copies";
import {
  answered,
  client,
  type FaultEvent,
  type FindingOf,
  type FixingPlan,
  type Job,
  type PlanView,
  type QuoteView,
  Refused,
  type TestingView,
  type TripRecord,
  Unreachable,
  type VoltageRelay,
  type WhatIfRange,
} from "./client";

/** All jobs. */
export const jobsQuery = queryOptions({
  queryKey: ["jobs"],
  queryFn: () => orCopy("jobs", () => answered(client.GET("/api/jobs"))),
});

/** A job at a glance, of one revision. */
export const summaryQuery = (jobId: string, head: number) =>
  queryOptions({
    queryKey: ["summary", jobId, head],
    queryFn: () =>
      answered(client.GET("/api/jobs/{job_id}/summary", { params: { path: { job_id: jobId } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** The demo jobs there are. */
export const demosQuery = queryOptions({
  queryKey: ["demos"],
  queryFn: () => answered(client.GET("/api/demos")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** Where this browser keeps the last revision that it saw of a job. */
export const copyOfJob = (jobId: string) => `job/${jobId}`;

/** The open revision of a job, as it was when the page was opened; while the server cannot be reached, as it was last seen. */
export const jobQuery = (jobId: string) =>
  queryOptions({
    queryKey: ["job", jobId],
    queryFn: () =>
      orCopy(copyOfJob(jobId), () =>
        answered(client.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId } } })),
      ),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    retry: false,
  });

/** An edit of a job that this browser holds, in the form of this program; what is wrong with it where it cannot be read. */
export const draftQuery = (jobId: string) =>
  queryOptions({
    queryKey: ["draft", jobId],
    queryFn: async (): Promise<{ draft?: Draft; problem?: string }> => {
      const draft = takeDraft(jobId);
      if (!draft) return {};
      try {
        const body = { document: draft.document };
        const { document } = await answered(client.POST("/api/parse/document", { body }));
        return { draft: { ...draft, document } };
      } catch (reason) {
        // It is in the form of the program that this browser keeps.
        if (reason instanceof Unreachable) return { draft };
        if (!(reason instanceof Refused)) throw reason;
        const place = setDraftAside(jobId);
        return {
          problem: `An unsaved change of this browser cannot be read: ${reason.message}. It stays in the browser's storage as ${place}.`,
        };
      }
    },
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
    queryFn: () =>
      orCopy(`rules/${rulesId}`, () =>
        answered(client.GET("/api/rules/{rules_id}", { params: { path: { rules_id: rulesId } } })),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What would mend a cell of a document. The document's version stands for it in the key. */
export const remediesQuery = (document: Job, version: number, finding: FindingOf, wanted: boolean) =>
  queryOptions({
    queryKey: ["remedies", version, finding],
    queryFn: ({ signal }) => answered(client.POST("/api/remedies", { body: { document, finding }, signal })),
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

/** What each residual-current device of a circuit protects, and leaves unprotected. */
export const rcdReachQuery = (document: Job, version: number, circuit: string, wanted: boolean) =>
  queryOptions({
    queryKey: ["rcd-reach", version, circuit],
    queryFn: ({ signal }) => answered(client.POST("/api/rcd-reach", { body: { document, circuit }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

let lastTests: TestingView | undefined;

/** The tests of a document in order, with its readings judged. The view before stays until the next one is there. */
export const testingQuery = (jobId: string, document: Job, version: number) =>
  queryOptions({
    queryKey: ["testing", jobId, version],
    queryFn: async ({ signal }) => {
      const view = await orCopy(`testing/${jobId}`, () =>
        answered(client.POST("/api/testing", { body: { document }, signal })),
      );
      // What is as before is the same object: of 700 rows those are drawn again that have changed.
      lastTests = replaceEqualDeep(lastTests, view) as TestingView;
      return lastTests;
    },
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    placeholderData: keepPreviousData,
  });

/** The plan of a document. The one before stays until the next one is there. */
export const planQuery = (document: Job, version: number) =>
  queryOptions({
    queryKey: ["plan", version],
    queryFn: async ({ signal }) =>
      (await answered(client.POST("/api/plan", { body: { document }, signal }))) as PlanView,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    placeholderData: keepPreviousData,
  });

/** How the plan of a document is fixed, drilled and marked out. The one before stays until the next one is there. */
export const fixingQuery = (document: Job, version: number) =>
  queryOptions({
    queryKey: ["fixing", version],
    queryFn: async ({ signal }) =>
      (await answered(client.POST("/api/material/fixing", { body: { document }, signal }))) as FixingPlan,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    placeholderData: keepPreviousData,
  });

/** A document priced. The one before stays until the next one is there. */
export const quoteQuery = (document: Job, version: number) =>
  queryOptions({
    queryKey: ["quote", version],
    queryFn: async ({ signal }) =>
      (await answered(client.POST("/api/material/quote", { body: { document }, signal }))) as QuoteView,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    placeholderData: keepPreviousData,
  });

/** The routes that a circuit could have, each worked out whole. */
export const otherRoutesQuery = (document: Job, version: number, circuit: string) =>
  queryOptions({
    queryKey: ["other-routes", version, circuit],
    queryFn: async ({ signal }) =>
      answered(client.POST("/api/plan/other-routes", { body: { document, circuit }, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** What the report of a document states, and what is open. The view before stays until the next one is there. */
export const inspectionQuery = (document: Job, version: number) =>
  queryOptions({
    queryKey: ["inspection", version],
    queryFn: ({ signal }) => answered(client.POST("/api/inspection", { body: { document }, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    placeholderData: keepPreviousData,
  });

/** The codes of observations of a standard, and what is found at inspections. */
export const catalogueQuery = (rules: string) =>
  queryOptions({
    queryKey: ["observations", rules],
    queryFn: () => answered(client.GET("/api/inspection/observations", { params: { query: { rules } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** Every reading a job ever had; asked again at every revision. */
export const readingsQuery = (jobId: string, revision: number) =>
  queryOptions({
    queryKey: ["readings", jobId, revision],
    queryFn: () =>
      orCopy(`readings/${jobId}`, () =>
        answered(client.GET("/api/jobs/{job_id}/readings", { params: { path: { job_id: jobId } } })),
      ),
    placeholderData: keepPreviousData,
  });

/** What of a circuit may be moved. */
export const rangesQuery = (document: Job, version: number, circuit: string, wanted: boolean) =>
  queryOptions({
    queryKey: ["ranges", version, circuit],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/what-if/ranges", { body: { document, circuit }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** A quantity of a circuit along its range. */
export const whatIfQuery = (
  document: Job,
  version: number,
  circuit: string,
  quantity: WhatIfRange["quantity"],
  wanted: boolean,
) =>
  queryOptions({
    queryKey: ["whatif", version, circuit, quantity],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/what-if", { body: { document, circuit, quantity }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** What a larger service asks for. */
export const upgradeQuery = (document: Job, version: number, wanted: boolean) =>
  queryOptions({
    queryKey: ["upgrade", version],
    queryFn: ({ signal }) => answered(client.POST("/api/larger-supply", { body: { document }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** How far each size of a circuit's cable goes. */
export const lengthsQuery = (document: Job, version: number, circuit: string, wanted: boolean) =>
  queryOptions({
    queryKey: ["lengths", version, circuit],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/max-lengths", { body: { document, circuit }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });

/** What is computed of a document stands in the cache by its version. */
export const computed = { staleTime: Number.POSITIVE_INFINITY, gcTime: 30_000 } as const;

/** Every pair of devices in series. */
export const matrixQuery = (document: Job, version: number, wanted: boolean) =>
  queryOptions({
    queryKey: ["matrix", version],
    queryFn: ({ signal }) => answered(client.POST("/api/selectivity", { body: { document }, signal })),
    enabled: wanted,
    ...computed,
  });

/** The kinds of event the fault view knows. */
export const faultKindsQuery = (rules: string) =>
  queryOptions({
    queryKey: ["fault-kinds", rules],
    queryFn: () => answered(client.GET("/api/faults/kinds", { params: { query: { rules } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** The devices of a document that may open. */
export const devicesQuery = (document: Job, version: number, wanted: boolean) =>
  queryOptions({
    queryKey: ["devices", version],
    queryFn: ({ signal }) => answered(client.POST("/api/faults/devices", { body: { document }, signal })),
    enabled: wanted,
    ...computed,
  });

/** What an event leads to; until the next answer is there the last one stands. */
export const faultQuery = (document: Job, version: number, event: FaultEvent, wanted: boolean) =>
  queryOptions({
    queryKey: ["fault", version, event],
    queryFn: ({ signal }) => answered(client.POST("/api/faults", { body: { document, event }, signal })),
    enabled: wanted,
    retry: false,
    placeholderData: (before) => before,
    ...computed,
  });

/** What probably made a device open. */
export const causesQuery = (document: Job, version: number, trip: TripRecord, wanted: boolean) =>
  queryOptions({
    queryKey: ["causes", version, trip],
    queryFn: ({ signal }) =>
      answered(
        client.POST("/api/faults/causes", {
          body: { document, device: trip.device, ran: trip.ran, since: trip.at },
          signal,
        }),
      ),
    enabled: wanted,
    ...computed,
  });

/** The trip log of a job. */
export const tripsQuery = (jobId: string) =>
  queryOptions({
    queryKey: ["trips", jobId],
    queryFn: () => answered(client.GET("/api/jobs/{job_id}/trips", { params: { path: { job_id: jobId } } })),
  });

/** The device families that come with the program. */
export const familiesQuery = queryOptions({
  queryKey: ["families"],
  queryFn: () => answered(client.GET("/api/families")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** The architectures of residual-current devices that are planned. */
export const architecturesQuery = (rules: string) =>
  queryOptions({
    queryKey: ["architectures", rules],
    queryFn: () => answered(client.GET("/api/rcds/architectures", { params: { query: { rules } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** The voltage traces that are built in. */
export const tracesQuery = queryOptions({
  queryKey: ["traces"],
  queryFn: () => answered(client.GET("/api/relay/traces")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** A relay over a trace: one that is built in, or the user's own as CSV. */
export const relayQuery = (relay: VoltageRelay, nominal_v: number, trace: string, csv: string | null) =>
  queryOptions({
    queryKey: ["relay", relay, nominal_v, trace, csv],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/relay/simulate", { body: { relay, nominal_v, trace, csv }, signal })),
    retry: false,
    placeholderData: (before) => before,
    ...computed,
  });

/** A board as it is drawn, with some switches open; until the next answer is there the last one stands. */
export const boardQuery = (document: Job, version: number, board: string, open: string[], wanted: boolean) =>
  queryOptions({
    queryKey: ["board", version, board, open],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/boards/view", { body: { document, board, open, supply_on: true }, signal })),
    enabled: wanted,
    placeholderData: (before) => before,
    ...computed,
  });

/** The enclosures that come with the program. */
export const enclosuresQuery = queryOptions({
  queryKey: ["enclosures"],
  queryFn: () => answered(client.GET("/api/boards/enclosures")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** The order of isolation for the work in hand. */
export const isolationQuery = (
  document: Job,
  version: number,
  board: string,
  work: string,
  wanted: boolean,
) =>
  queryOptions({
    queryKey: ["isolation", version, board, work],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/boards/isolation-steps", { body: { document, board, work }, signal })),
    enabled: wanted,
    ...computed,
  });

/** What of the wiring lists of a job is done. */
export const ticksQuery = (jobId: string) =>
  queryOptions({
    queryKey: ["wired", jobId],
    queryFn: () =>
      answered(client.GET("/api/jobs/{job_id}/wiring-progress", { params: { path: { job_id: jobId } } })),
  });

/** What may be wrong in a board that is found. */
export const thingsQuery = queryOptions({
  queryKey: ["things"],
  queryFn: () => answered(client.GET("/api/survey/observation-kinds")),
  staleTime: Number.POSITIVE_INFINITY,
});

/** What follows from a surveyed board; until the next answer is there the last one stands. */
export const surveyQuery = (document: Job, version: number, board: string, wanted: boolean) =>
  queryOptions({
    queryKey: ["survey", version, board],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/survey/evaluate", { body: { document, board }, signal })),
    enabled: wanted,
    placeholderData: (before) => before,
    ...computed,
  });

/** A surveyed board and the one that takes its place. */
export const beforeAfterQuery = (document: Job, version: number, board: string, wanted: boolean) =>
  queryOptions({
    queryKey: ["before-after", version, board],
    queryFn: ({ signal }) =>
      answered(client.POST("/api/survey/compare", { body: { document, board }, signal })),
    enabled: wanted,
    ...computed,
  });

/** The photos of a job. */
export const photosQuery = (jobId: string) =>
  queryOptions({
    queryKey: ["photos", jobId],
    queryFn: () =>
      orCopy(`photos ${jobId}`, () =>
        answered(client.GET("/api/jobs/{job_id}/photos", { params: { path: { job_id: jobId } } })),
      ),
  });

/** How a phone is paired; asked each time, since the addresses change with the network. */
export const pairingQuery = queryOptions({
  queryKey: ["pairing"],
  queryFn: () => answered(client.GET("/api/pairing")),
  gcTime: 0,
});

/** Everything that can be exported. */
export const exportKindsQuery = queryOptions({
  queryKey: ["export-kinds"],
  queryFn: () => answered(client.GET("/api/exports/kinds")),
  staleTime: Number.POSITIVE_INFINITY,
});
