export { WorkPage } from "./WorkPage";
