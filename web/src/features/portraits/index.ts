export { PortraitsPage } from "./PortraitsPage";
export { SideBySidePage } from "./SideBySidePage";
export { YearPage } from "./YearPage";
