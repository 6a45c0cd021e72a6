import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import { reaches, useMember } from "@/shared/member";
import { Check, Select } from "@/shared/ui";
import type { Described } from "./labels";

interface Props {
  field: Described;
  value: unknown;
  onChange: (value: unknown) => void;
}

const usePeopleNamed = (enabled = true) =>
  useQuery({
    queryKey: ["people"],
    enabled,
    queryFn: async () => unwrap(await api.GET("/api/people/")),
  });

/** One of the people of the organisation; who may not read their list can name themselves. */
export function MemberInput({ field, value, onChange }: Props) {
  const member = useMember();
  const people = usePeopleNamed(reaches(member, "steward")).data ?? [
    { id: member.id, shown_name: member.shown_name },
  ];
  return (
    <Select
      label={field.label}
      hint={field.meaning}
      value={String(value ?? "")}
      onChange={(e) => onChange(e.target.value || undefined)}
    >
      <option value="">nobody named</option>
      {people.map((p) => (
        <option key={p.id} value={p.id}>
          {p.shown_name}
        </option>
      ))}
    </Select>
  );
}

/** Some of the people of the organisation. */
export function MembersInput({ field, value, onChange }: Props) {
  const people = usePeopleNamed();
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
