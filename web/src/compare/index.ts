export { Compare } from "./Compare";
