export { OnePoint } from "./OnePoint";
