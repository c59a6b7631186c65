export { ImportTable } from "../import/ImportTable";
export { Documents } from "./Documents";
