export { SitePage } from "./SitePage";
