export { Faults } from "./Faults";
