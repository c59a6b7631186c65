export { LatticeView } from "./LatticeView";
export { Answer } from "./WorkingPanel";
