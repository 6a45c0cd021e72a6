import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";

export type Person = Schemas["Person"];

/** Lists of people are read anew each time and never saved on the device: they are other people's data. */
export const usePeople = () =>
  useQuery({ queryKey: ["people"], queryFn: async () => unwrap(await api.GET("/api/people/")) });

export const useLinks = (enabled: boolean) =>
  useQuery({ queryKey: ["links"], enabled, queryFn: async () => unwrap(await api.GET("/api/links/")) });

/** An act on the server: what it refused is said, and the lists it changes are read anew. */
export function useAct(...changes: string[]) {
  const client = useQueryClient();
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const act = async <T>(run: () => Promise<T>): Promise<T | undefined> => {
    setWrong("");
    setBusy(true);
    try {
      const done = await run();
      for (const key of changes) await client.invalidateQueries({ queryKey: [key] });
      return done;
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "Nothing was changed.");
      return undefined;
    } finally {
      setBusy(false);
    }
  };
  return { act, wrong, setWrong, busy };
}
