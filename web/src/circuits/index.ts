export { FIGURE } from "./CheckCell";
export { Answer } from "./CheckDetails";
export { CircuitsPage } from "./CircuitsPage";
export { FirstCircuit } from "./FirstCircuit";
export { Gauge } from "./Gauge";
export { shownVerdict, VERDICT_MARKS, verdictWord } from "./gridModel";
