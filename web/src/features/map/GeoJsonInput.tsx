import { useId } from "react";

/** A file of GeoJSON that is chosen on the device. */
export function GeoJsonInput({ label, onFile }: { label: string; onFile: (file: File) => void }) {
  const id = useId();
  return (
    <>
      <label htmlFor={id} className="mb-1 block text-sm text-soft">
        {label}
      </label>
      <input
        id={id}
        type="file"
        accept=".geojson,.json,application/geo+json"
        className="block w-full text-sm file:mr-3 file:min-h-[44px] file:border-2 file:border-rule file:bg-sheet file:px-3 file:text-ink"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
        }}
      />
    </>
  );
}
