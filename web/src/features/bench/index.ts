export { BenchPage } from "./BenchPage";
export { NotToldFrom } from "./NotToldFrom";
