export { ExchangePage } from "./ExchangePage";
