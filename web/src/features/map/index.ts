export { MapPage as default } from "./MapPage";
