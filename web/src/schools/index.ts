export { Schools } from "./Schools";
