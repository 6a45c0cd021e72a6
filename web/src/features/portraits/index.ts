export { PortraitsPage } from "./PortraitsPage";
export { SideBySidePage } from "./SideBySidePage";
export { SpaceCheck } from "./SpaceCheck";
export { YearPage } from "./YearPage";
