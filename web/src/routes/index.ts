export { frameOf, levelName } from "./planModel";
export { RoutesPage } from "./RoutesPage";
export { linePath } from "./Symbol";
