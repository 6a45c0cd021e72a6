import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";

/** Whether the installation waits for its first organisation. */
export const useFirstRun = () =>
  useQuery({
    queryKey: ["first run"],
    queryFn: async () => unwrap(await api.GET("/api/first-run/")).needed,
  });
