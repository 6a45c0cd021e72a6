import { useId, useRef } from "react";
import { Button } from "@/shared/ui";

/** A button that opens the camera, or the files of the device. */
export function FileButton({
  label,
  camera = false,
  onFiles,
}: {
  label: string;
  camera?: boolean;
  onFiles: (files: FileList | null) => void;
}) {
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        id={id}
        type="file"
        accept="image/*"
        aria-label={label}
        tabIndex={-1}
        className="sr-only"
        multiple={!camera}
        {...(camera ? { capture: "environment" as const } : {})}
        onChange={(e) => {
          onFiles(e.target.files);
          e.target.value = ""; // the same picture can be chosen again
        }}
      />
      <Button onClick={() => input.current?.click()}>{label}</Button>
    </>
  );
}
