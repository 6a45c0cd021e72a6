import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import { useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { type Contact, useContacts } from "@/shared/records/useContacts";
import { Button, Dialog, Field, Notice, PageState } from "@/shared/ui";
import { useAct } from "./usePeople";

const MOST_SHOWN = 200;

/** People outside the organisation. Records name them by id, so that one can be erased and the records stay. */
export function ContactsPage() {
  const contacts = useContacts();
  const [words, setWords] = useState("");
  const [chosen, setChosen] = useState<Contact | "new" | null>(null);
  const vocabulary = useVocabulary();
  // the fields first: a form that opened without them would empty what it does not show
  if (!contacts.data || !vocabulary.data)
    return <PageState error={contacts.error ?? vocabulary.error} what="the contacts" />;
  const found = contacts.data.filter((c) =>
    `${c.name} ${c.role} ${c.email}`.toLowerCase().includes(words.toLowerCase()),
  );
  return (
    <div className="mx-auto max-w-4xl p-4 md:p-8">
      <div className="mb-4 flex flex-wrap items-baseline justify-between gap-3">
        <h1 className="text-3xl">People outside</h1>
        <Button weight="act" onClick={() => setChosen("new")}>
          Add a contact
        </Button>
      </div>
      <p className="mb-4 max-w-prose text-sm text-soft">
        Owners, callers, contractors, and observers who are no members: an observer named on a visit or in a
        file gets a contact by itself. Enter no more than the work needs.
      </p>
      {contacts.data.length > 8 && (
        <Field label="Find" type="search" value={words} onChange={(e) => setWords(e.target.value)} />
      )}
      {contacts.data.length === 0 && <p>Nobody yet.</p>}
      <ul className="mt-3 border-t border-rule">
        {found.slice(0, MOST_SHOWN).map((c) => (
          <li key={c.id} className="border-b border-rule">
            {c.erased_at ? (
              <p className="py-3 text-soft">Erased on {c.erased_at.slice(0, 10)}</p>
            ) : (
              <button
                type="button"
                className="grid min-h-[56px] w-full gap-x-4 py-2 text-left hover:bg-sheet sm:grid-cols-[1fr_10rem_16rem]"
                onClick={() => setChosen(c)}
              >
                <strong className="min-w-0 break-words">{c.name}</strong>
                <span>{c.role}</span>
                <span className="break-all text-sm text-soft">{c.email || c.phone}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      {found.length > MOST_SHOWN && (
        <p className="mt-2 text-sm text-soft">{found.length - MOST_SHOWN} more; narrow by name.</p>
      )}
      <Dialog
        open={chosen !== null}
        onOpenChange={() => setChosen(null)}
        title={chosen === "new" || chosen === null ? "Add a contact" : chosen.name}
      >
        {chosen && (
          <ContactForm
            key={chosen === "new" ? "new" : chosen.id}
            contact={chosen === "new" ? undefined : chosen}
            vocabulary={vocabulary.data}
            onDone={() => setChosen(null)}
          />
        )}
      </Dialog>
    </div>
  );
}

interface FormProps {
  contact: Contact | undefined;
  vocabulary: Vocabulary;
  onDone: () => void;
}

function ContactForm({ contact, vocabulary, onDone }: FormProps) {
  const fields = vocabulary.records.office["contact"] ?? [];
  const [draft, setDraft] = useState<Body>(
    contact ? Object.fromEntries(fields.map((f) => [f.id, contact[f.id as keyof Contact]])) : {},
  );
  const [sure, setSure] = useState(false);
  const { act, wrong, busy } = useAct("contacts");
  // whole: what was emptied is sent as empty
  const emptied = (type: string) => (type === "several" ? [] : "");
  const given = Object.fromEntries(
    fields.map((f) => [f.id, draft[f.id] ?? emptied(f.type)]),
  ) as Schemas["ContactIn"];
  const path = { params: { path: { contact_id: contact?.id ?? "" } } };
  const save = async () => {
    const saved = await act(async () =>
      contact
        ? unwrap(await api.PATCH("/api/contacts/{contact_id}/", { ...path, body: given }))
        : unwrap(await api.POST("/api/contacts/", { body: given })),
    );
    if (saved) onDone();
  };
  const erase = async () => {
    if (await act(async () => unwrap(await api.DELETE("/api/contacts/{contact_id}/", path)))) onDone();
  };
  return (
    <div className="grid gap-3">
      <RecordForm fields={fields} value={draft} onChange={setDraft} vocabulary={vocabulary} />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" disabled={busy} onClick={() => void save()}>
        Save contact
      </Button>
      {contact && (
        <>
          {sure && (
            <p role="alert" className="text-rust">
              Name, address and all that is personal is erased here for good; records that name the contact
              show the date of erasing instead. Backups hold it until they are thrown away; what was exported
              is out of reach.
            </p>
          )}
          <Button weight="warn" onClick={() => (sure ? void erase() : setSure(true))}>
            {sure ? "Erase for good" : "Erase contact"}
          </Button>
        </>
      )}
    </div>
  );
}
