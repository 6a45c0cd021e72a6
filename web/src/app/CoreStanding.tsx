import { useDeviceCore } from "@/core";

const SAID = {
  off: "Naming asks the server. This device gets its own copy in a moment.",
  starting: "Naming asks the server while this device gets its own copy (about 7 MB, once).",
  ready: "Naming, species and checks run on this device, offline too.",
  unable:
    "Naming asks the server: this device has too little memory or no WebAssembly. Offline it cannot name.",
  failed:
    "Naming asks the server: the copy on this device could not be started. It is tried again when the network comes back.",
} as const;

/** Where names are worked out: on this device or by the server. */
export function CoreStanding() {
  const standing = useDeviceCore();
  return (
    <p className="text-sm text-soft" data-core={standing}>
      {SAID[standing]}
    </p>
  );
}
