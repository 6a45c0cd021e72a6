export { IdentifyPage } from "./IdentifyPage";
export { NotSeparatedFrom, useNotSeparatedFrom } from "./NotSeparatedFrom";
