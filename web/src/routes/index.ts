export { RoutesPage } from "./RoutesPage";
