export { HistoryPage } from "./HistoryPage";
export { InventoryPage } from "./InventoryPage";
