export { FIGURE } from "./CheckCell";
export { Answer } from "./CheckDetails";
export { CircuitsPage } from "./CircuitsPage";
export { shownVerdict, VERDICT_MARKS, verdictWord } from "./gridModel";
