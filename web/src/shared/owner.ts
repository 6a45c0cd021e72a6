/** Whose this device is now: what was read, and the notes that outlive a reload, are theirs alone. */
export interface Owner {
  member: string;
  organisation: string;
}

let owner: Owner | null = null;
const listeners = new Set<() => void>();

export const deviceOwner = (): Owner | null => owner;

/** Said by the sign-in gate before anything below it reads. */
export function setDeviceOwner(next: Owner | null): void {
  if (owner?.member === next?.member && owner?.organisation === next?.organisation) return;
  owner = next;
  for (const listener of listeners) listener();
}

export function onDeviceOwner(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
