import createClient from "openapi-fetch";
import { languageNow } from "../messages/catalogue";
import { Refused, Unreachable } from "./errors";
import type { components, paths } from "./schema";

export { Refused, Unreachable };

type Schemas = components["schemas"];
export type Job = Schemas["Job"];
export type Chip = Schemas["Chip"];
export type JobLine = Schemas["JobLine"];
export type JobSummary = Schemas["JobSummary"];
export type Miniature = Schemas["Miniature"];
export type NewJob = Schemas["NewJob"];
export type OpenAssumption = Schemas["OpenAssumption"];
export type Circuit = Schemas["Circuit"];
export type Board = Schemas["Board"];
export type Section = Schemas["Section"];
export type Cable = Schemas["Cable"];
export type Device = Schemas["Device"];
export type Load = Schemas["Load"];
export type Supply = Schemas["Supply"];
export type Spur = Schemas["Spur"];
export type Room = Schemas["Room"];
export type EquipmentPosition = Schemas["EquipmentPosition"];
export type Spd = Schemas["Spd"];
export type SurgeRisk = Schemas["SurgeRisk"];
export type VoltageRelay = Schemas["VoltageRelay"];
export type DeviceFamily = Schemas["DeviceFamily"];
export type Matrix = Schemas["Matrix"];
export type PairResult = Schemas["PairResult"];
export type BandPoints = Schemas["BandPoints"];
export type RcdPlan = Schemas["RcdPlan"];
export type FaultEvent = Schemas["FaultEvent"];
export type FaultResult = Schemas["FaultResult"];
export type FaultKindLine = Schemas["FaultKindLine"];
export type DeviceLine = Schemas["DeviceLine"];
export type PossibleCause = Schemas["PossibleCause"];
export type TripRecord = Schemas["TripRecord"];
export type PlanView = Schemas["PlanView"];
export type FixingPlan = Schemas["FixingPlan"];
export type DrillRow = Schemas["DrillRow"];
export type QuoteView = Schemas["QuoteView"];
export type QuoteTerms = Schemas["QuoteTerms"];
export type QuoteChange = Schemas["QuoteChange"];
export type SavedQuote = Schemas["SavedQuote"];
export type MaterialView = Schemas["MaterialView"];
export type BuyingLine = Schemas["BuyingLine"];
export type CutView = Schemas["CutView"];
export type Candidate = Schemas["Candidate"];
export type TrainingOffer = Schemas["TrainingOffer"];
export type PlayView = Schemas["PlayView"];
export type Attempt = Schemas["Attempt"];
export type BoardSpec = Schemas["BoardSpec"];
export type Act = NonNullable<Attempt["acts"]>[number];
export type ExerciseView = Schemas["ExerciseView"];
export type Judged = Schemas["Judged"];
export type ClassExercise = Schemas["ClassExercise"];
export type ClassFile = Schemas["ClassFile"];
export type ExtensionDecision = Schemas["ExtensionDecision"];
export type FoundRow = Schemas["FoundRow"];
export type PlannedCircuit = Schemas["PlannedCircuit"];
export type Drawing = Schemas["Drawing"];
export type DrawnPoint = Schemas["DrawnPoint"];
export type PlanPoint = Schemas["PlanPoint"];
export type CircuitRoute = Schemas["CircuitRoute"];
export type OtherRoute = Schemas["OtherRoute"];
export type TestingView = Schemas["TestingView"];
export type OtherReading = Schemas["OtherReading"];
export type PlannedTest = Schemas["PlannedTest"];
export type TestStep = Schemas["TestStep"];
export type Diagnosis = Schemas["Diagnosis"];
export type PossibleDefect = Schemas["PossibleDefect"];
export type JudgedReading = Schemas["JudgedReading"];
export type NewReading = Schemas["NewReading"];
export type ReadingRecord = Schemas["ReadingRecord"];
export type InstrumentIdentity = Schemas["InstrumentIdentity"];
export type InspectionView = Schemas["InspectionView"];
export type ObservationCatalogue = Schemas["ObservationCatalogue"];
export type CataloguedObservation = Schemas["CataloguedObservation"];
export type CodedObservation = Schemas["CodedObservation"];
export type SuggestedObservation = Schemas["SuggestedObservation"];
export type RelayRun = Schemas["RelayRun"];
export type Need = Schemas["Need"];
export type Line = "L1" | "L2" | "L3";
export type BoardFigures = Schemas["BoardFigures"];
export type WhatIf = Schemas["WhatIf"];
export type WhatIfRange = Schemas["WhatIfRange"];
export type Comparison = Schemas["Comparison"];
export type Upgrade = Schemas["Upgrade"];
export type Differences = Schemas["Differences"];
export type Assessment = Schemas["Assessment"];
export type Finding = Schemas["Finding"];
export type CauseGroup = Schemas["CauseGroup"];
export type AcceptedCause = Schemas["AcceptedCause"];
export type NextStep = Schemas["NextStep"];
export type Verdict = Finding["verdict"];
export type Step = Schemas["Step"];
export type Remedy = Schemas["Remedy"];
export type FindingOf = Schemas["FindingOf"];
export type CircuitFigures = Schemas["CircuitFigures"];
export type PathPoint = Schemas["PathPoint"];
export type Revision = Schemas["Revision"];
export type RevisionLine = Schemas["RevisionLine"];
export type RuleSetView = Schemas["RuleSetView"];
export type Decision = Schemas["Decision"];
export type ExistingBoard = Schemas["ExistingBoard"];
export type ExistingWay = Schemas["ExistingWay"];
export type ObservationResult = Schemas["ObservationResult"];
export type ObservationKind = Schemas["ObservationKind"];
export type RatingTransfer = Schemas["RatingTransfer"];
export type BeforeAfter = Schemas["BeforeAfter"];
export type Photo = Schemas["Photo"];
export type AddCircuitOption = Schemas["AddCircuitOption"];
export type BoardView = Schemas["BoardView"];
export type DeviceView = Schemas["DeviceView"];
export type LiveView = Schemas["LiveNet"];
export type Conductor = Schemas["Conductor"];
export type Enclosure = Schemas["Enclosure"];
export type BoardBuild = Schemas["BoardBuild"];
export type Mounting = Schemas["Mounting"];
export type ControlGear = Schemas["ControlGear"];
export type LayoutLine = Schemas["LayoutLine"];
export type Isolation = Schemas["Isolation"];
export type WiringTick = Schemas["WiringTick"];
export type WorkDetails = Schemas["WorkDetails"];
export type ExportKind = Schemas["KindLine"];
export type ExportLine = Schemas["ExportLine"];
export type ReadTable = Schemas["ReadTable"];
export type TableAnswer = Schemas["TableAnswer"];
export type BackupContent = Schemas["BackupContent"];
export type Problem = Schemas["Problem"];
export type ConflictProblem = Schemas["ConflictProblem"];

export const client = createClient<paths>({
  baseUrl: window.location.origin,
  // Looked up at each call, so that a test can put a server of its own in its place.
  fetch: (request) => fetch(request),
});

// Messages come as ids with parameters: only what is shown is made into a sentence.
client.use({
  onRequest({ request }) {
    request.headers.set("x-texts", "none");
    request.headers.set("x-language", languageNow());
    return request;
  },
});

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or one of the two errors above. */
export async function answered<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Unreachable();
  }
  if (!answer.response.ok)
    throw new Refused(answer.response.status, asProblem(answer.error, answer.response));
  return answer.data as T;
}

function asProblem(error: unknown, response: Response): Problem {
  if (error && typeof error === "object" && "detail" in error) return error as Problem;
  return {
    type: "",
    title: response.statusText,
    status: response.status,
    detail: response.statusText,
    problems: [],
  };
}
