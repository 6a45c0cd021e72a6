import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import { Check } from "@/shared/ui";
import type { Described } from "./labels";

interface Props {
  field: Described;
  value: unknown;
  onChange: (value: unknown) => void;
}

/** Some of the people of the organisation. */
export function MembersInput({ field, value, onChange }: Props) {
  const people = useQuery({
    queryKey: ["people"],
    queryFn: async () => unwrap(await api.GET("/api/people/")),
  });
  const chosen = (value as string[] | undefined) ?? [];
  const set = (id: string, on: boolean) => {
    const next = on ? [...chosen, id] : chosen.filter((m) => m !== id);
    onChange(next.length ? next : undefined);
  };
  return (
    <fieldset>
      <legend className="text-sm text-soft">{field.label}</legend>
      <div className="flex flex-wrap gap-x-6">
        {people.data?.map((p) => (
          <Check
            key={p.id}
            label={p.shown_name}
            checked={chosen.includes(p.id)}
            onChange={(on) => set(p.id, on)}
          />
        ))}
      </div>
      <p className="text-sm text-soft">{field.meaning}</p>
    </fieldset>
  );
}
