export { GroundPage as default } from "./GroundPage";
