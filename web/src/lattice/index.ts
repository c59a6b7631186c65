export { FIGURE } from "./CheckCell";
export { LatticeView } from "./LatticeView";
export { VERDICT_MARKS, verdictWord } from "./latticeModel";
export { Answer } from "./WorkingPanel";
