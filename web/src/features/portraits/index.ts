export { PortraitsPage } from "./PortraitsPage";
export { SideBySidePage } from "./SideBySidePage";
