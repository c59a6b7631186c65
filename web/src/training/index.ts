export { TrainingPage } from "./TrainingPage";
