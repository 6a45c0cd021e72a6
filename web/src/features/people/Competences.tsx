import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { today } from "@/shared/dates";
import { useMember } from "@/shared/member";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import { useVocabulary } from "@/shared/records/reads";
import { Button, Notice } from "@/shared/ui";
import { type Person, useAct } from "./usePeople";

/** Licences and qualifications of a member, with what has expired. */
export function Competences({ person }: { person: Person }) {
  const member = useMember();
  const vocabulary = useVocabulary().data;
  const fields = vocabulary?.records.office["competence"] ?? [];
  const [draft, setDraft] = useState<Body | null>(null);
  const { act, wrong, busy } = useAct("people");
  const day = today(member);
  const add = async () => {
    const added = await act(async () =>
      unwrap(
        await api.POST("/api/people/{member_id}/competences/", {
          params: { path: { member_id: person.id } },
          body: draft as Schemas["CompetenceIn"],
        }),
      ),
    );
    if (added) setDraft(null);
  };
  const remove = (id: string) =>
    act(async () =>
      unwrap(
        await api.DELETE("/api/competences/{competence_id}/", { params: { path: { competence_id: id } } }),
      ),
    );
  return (
    <section aria-label="Competences">
      <h3 className="text-lg">Licences and qualifications</h3>
      {person.competences.length === 0 && <p className="text-sm text-soft">None entered.</p>}
      <ul className="border-t border-rule">
        {person.competences.map((c) => {
          const expired = c.valid_until !== null && c.valid_until < day;
          return (
            <li key={c.id} className="flex items-center justify-between gap-3 border-b border-rule py-1">
              <span>
                <strong>{c.name}</strong> <span className="text-sm text-soft">{c.kind}</span>
                <span className="block text-sm text-soft">
                  {[c.issuer, c.number && `no. ${c.number}`].filter(Boolean).join(", ")}
                </span>
                <span className={`block text-sm ${expired ? "font-bold text-rust" : "text-soft"}`}>
                  {c.valid_until
                    ? `${expired ? "expired" : "valid until"} ${c.valid_until}`
                    : "does not expire"}
                </span>
              </span>
              {!person.left_at && (
                <Button weight="quiet" aria-label={`Remove ${c.name}`} onClick={() => void remove(c.id)}>
                  remove
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      {draft && vocabulary ? (
        <div className="mt-3 grid gap-3">
          <RecordForm fields={fields} value={draft} onChange={setDraft} vocabulary={vocabulary} />
          <Button weight="act" disabled={busy} onClick={() => void add()}>
            Save competence
          </Button>
        </div>
      ) : (
        !person.left_at && (
          <Button className="mt-3" onClick={() => setDraft({})}>
            Add a licence or qualification
          </Button>
        )
      )}
    </section>
  );
}
