export { WalkPage } from "./WalkPage";
