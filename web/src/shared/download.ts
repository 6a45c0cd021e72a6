/** Hands a file to whoever uses the device. */
export function download(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** A record as it is on the device. */
export const downloadJson = (record: unknown, name: string): void =>
  download(new Blob([JSON.stringify(record, null, 1)], { type: "application/json" }), name);
