export { LatticeView } from "./LatticeView";
export { verdictWord } from "./latticeModel";
export { Answer } from "./WorkingPanel";
