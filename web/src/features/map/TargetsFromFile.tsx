import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "@/api/client";
import { Notice } from "@/shared/ui";
import { GeoJsonInput } from "./GeoJsonInput";

/** Targets of a GeoJSON file, taken all together or not at all. */
export function TargetsFromFile({ site }: { site: string }) {
  const client = useQueryClient();
  const [said, setSaid] = useState("");
  const [wrong, setWrong] = useState("");
  const take = async (file: File) => {
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
      <GeoJsonInput
        label="Targets from a GeoJSON file, each with name, kind and occupancy"
        onFile={(file) => void take(file)}
      />
      <p role="status" className="text-sm">
        {said}
      </p>
      {wrong && <Notice kind="refused">{wrong}</Notice>}
    </div>
  );
}
