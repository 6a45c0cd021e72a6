export { CausePage } from "./CausePage";
export { HealthPage } from "./HealthPage";
