export { InspectionsPage } from "./InspectionsPage";
export { ReportPage } from "./ReportPage";
export { WalkPage } from "./WalkPage";
