export { Variants } from "./Variants";
