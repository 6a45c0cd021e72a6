export { StormPage } from "./StormPage";
