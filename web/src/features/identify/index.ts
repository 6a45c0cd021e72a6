export { IdentifyPage } from "./IdentifyPage";
export { NotToldFrom } from "./NotToldFrom";
