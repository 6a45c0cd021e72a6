export { LedgerPage } from "./LedgerPage";
export { StemPage } from "./StemPage";
