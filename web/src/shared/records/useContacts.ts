import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";

export type Contact = Schemas["Contact"];

/** People outside, for stewards. Read anew each time and never saved on the device: it is other people's data. */
export const useContacts = (enabled = true) =>
  useQuery({ queryKey: ["contacts"], enabled, queryFn: async () => unwrap(await api.GET("/api/contacts/")) });
