export { FirstRunPage } from "./FirstRunPage";
export { JoinPage } from "./JoinPage";
