export type { Case, Place } from "./operations";
export * as core from "./operations";
