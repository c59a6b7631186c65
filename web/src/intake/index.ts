export { Intake } from "./Intake";
