export { TestingPage } from "./TestingPage";
