export { Standards } from "./Standards";
