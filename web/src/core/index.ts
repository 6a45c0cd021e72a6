export { leaveCore } from "./device";
export type { Case, Place } from "./operations";
export * as core from "./operations";
export { useCoreOnDevice, useDeviceCore } from "./useDeviceCore";
