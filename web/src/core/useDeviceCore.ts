import { useEffect, useSyncExternalStore } from "react";
import { deviceCore, expectCore, onDeviceCore, startCore } from "./device";

const AFTER_MS = 1500; // the first screen comes first

/** Where the core of this page stands. */
export const useDeviceCore = () => useSyncExternalStore(onDeviceCore, deviceCore);

/** Starts the core once the first screen stands; again when the network comes back after it could not start. */
export function useCoreOnDevice() {
  useEffect(() => {
    expectCore();
    const soon = setTimeout(startCore, AFTER_MS);
    const again = () => {
      if (deviceCore() === "failed") startCore();
    };
    addEventListener("online", again);
    return () => {
      clearTimeout(soon);
      removeEventListener("online", again);
    };
  }, []);
}
