export { QuotePage } from "./QuotePage";
