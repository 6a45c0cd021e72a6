import { reaches, useMember } from "@/shared/member";
import { Select } from "@/shared/ui";
import type { Described } from "./labels";
import { useContacts } from "./useContacts";

interface Props {
  field: Described;
  value: unknown;
  onChange: (value: unknown) => void;
}

/** Somebody outside the organisation, by name; the record holds the id alone, so that the person can be erased. */
export function ContactInput({ field, value, onChange }: Props) {
  const steward = reaches(useMember(), "steward");
  const contacts = useContacts(steward);
  const known = contacts.data?.filter((c) => !c.erased_at || c.id === value);
  if (!steward)
    return (
      <p className="text-sm text-soft">
        {field.label}: {value ? "named in the record" : "not named"}; a steward reads and names people
        outside.
      </p>
    );
  return (
    <Select
      label={field.label}
      hint={contacts.error ? "The list of people outside needs the server." : field.meaning}
      value={String(value ?? "")}
      onChange={(e) => onChange(e.target.value || undefined)}
    >
      <option value="">nobody named</option>
      {value !== undefined && !known?.some((c) => c.id === value) && (
        <option value={String(value)}>as recorded</option>
      )}
      {known?.map((c) => (
        <option key={c.id} value={c.id}>
          {c.name || `erased on ${c.erased_at?.slice(0, 10)}`}
        </option>
      ))}
    </Select>
  );
}
