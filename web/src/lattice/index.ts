export { LatticeView } from "./LatticeView";
