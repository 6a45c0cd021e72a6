export { SessionEnded } from "./SessionEnded";
export { SignIn } from "./SignIn";
