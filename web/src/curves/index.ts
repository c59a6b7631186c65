export { BandPlot } from "./BandPlot";
