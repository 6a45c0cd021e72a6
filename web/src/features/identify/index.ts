export { IdentifyPage } from "./IdentifyPage";
export { NotSeparatedFrom } from "./NotSeparatedFrom";
