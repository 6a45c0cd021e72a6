import { useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { api, unwrap } from "@/api/client";
import { Notice } from "@/shared/ui";

/** Targets of a GeoJSON file, taken all together or not at all. */
export function TargetsFromFile({ site }: { site: string }) {
  const id = useId();
  const client = useQueryClient();
  const [said, setSaid] = useState("");
  const [wrong, setWrong] = useState("");
  const take = async (file: File | undefined) => {
    if (!file) return;
    setSaid("");
    setWrong("");
    try {
      const body = JSON.parse(await file.text()) as Record<string, unknown>;
      const made = unwrap(
        await api.POST("/api/sites/{site_id}/targets.geojson", { params: { path: { site_id: site } }, body }),
      );
      await client.invalidateQueries({ queryKey: ["targets"] });
      setSaid(`${made.length} ${made.length === 1 ? "target" : "targets"} taken.`);
    } catch (error) {
      const reason = error instanceof SyntaxError ? "The file is no JSON." : (error as Error).message;
      setWrong(`${file.name}: ${reason} None was taken.`);
    }
  };
  return (
    <div className="mt-3">
      <label htmlFor={id} className="mb-1 block text-sm text-soft">
        Targets from a GeoJSON file, each with name, kind and occupancy
      </label>
      <input
        id={id}
        type="file"
        accept=".geojson,.json,application/geo+json"
        className="block w-full text-sm file:mr-3 file:min-h-[44px] file:border-2 file:border-rule file:bg-sheet file:px-3 file:text-ink"
        onChange={(e) => void take(e.target.files?.[0])}
      />
      <p role="status" className="text-sm">
        {said}
      </p>
      {wrong && <Notice kind="refused">{wrong}</Notice>}
    </div>
  );
}
