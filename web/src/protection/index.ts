export { Protection } from "./Protection";
