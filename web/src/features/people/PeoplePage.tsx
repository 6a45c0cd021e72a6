import { useState } from "react";
import { Link } from "react-router";
import { api, unwrap } from "@/api/client";
import { reaches, useMember } from "@/shared/member";
import { Button, Notice, PageState } from "@/shared/ui";
import { Invite } from "./Invite";
import { PersonSheet } from "./PersonSheet";
import { type Person, useAct, useLinks, usePeople } from "./usePeople";

/** Everybody of the organisation: role, end of access, competences, devices; and the links that are still open. */
export function PeoplePage() {
  const member = useMember();
  const people = usePeople();
  const [chosen, setChosen] = useState<string | null>(null);
  if (!people.data) return <PageState error={people.error} what="the people" />;
  const owner = reaches(member, "owner");
  const now = people.data.filter((p) => !p.left_at);
  const former = people.data.filter((p) => p.left_at);
  return (
    <div className="mx-auto max-w-5xl p-4 md:p-8">
      <div className="mb-4 flex flex-wrap items-baseline justify-between gap-3">
        <h1 className="text-3xl">People of {member.organisation_name}</h1>
        {owner && <Invite />}
      </div>
      <PeopleTable people={now} onChoose={setChosen} />
      {now.length === 1 && owner && (
        <p className="mt-3">You are alone here so far. Invite the first surveyor.</p>
      )}
      {owner && <OpenLinks />}
      {former.length > 0 && (
        <section className="mt-8">
          <h2 className="text-xl">Former members</h2>
          <p className="mb-2 text-sm text-soft">What they recorded stays; their names do not.</p>
          <PeopleTable people={former} onChoose={setChosen} />
        </section>
      )}
      <p className="mt-6 flex flex-wrap gap-x-6">
        <Link to="/contacts" className="target inline-flex items-center text-slate underline">
          People outside
        </Link>
        {owner && (
          <Link to="/audit" className="target inline-flex items-center text-slate underline">
            Who did what
          </Link>
        )}
      </p>
      <PersonSheet person={people.data.find((p) => p.id === chosen)} onClose={() => setChosen(null)} />
    </div>
  );
}

function PeopleTable({ people, onChoose }: { people: Person[]; onChoose: (id: string) => void }) {
  return (
    <ul className="border-t border-rule">
      {people.map((p) => (
        <li key={p.id} className="border-b border-rule">
          <button
            type="button"
            className="grid min-h-[64px] w-full grid-cols-1 gap-x-4 py-2 text-left hover:bg-sheet sm:grid-cols-[1fr_7rem_14rem]"
            onClick={() => onChoose(p.id)}
          >
            <span className="min-w-0 break-words">
              <strong>{p.shown_name}</strong>{" "}
              <span className="text-sm text-soft">{p.username && `signs in as ${p.username}`}</span>
            </span>
            <span>{p.role}</span>
            <span className="text-sm text-soft">
              {standing(p)}
              {p.competences.length > 0 && (
                <span className="block">
                  {p.competences.length} {p.competences.length === 1 ? "competence" : "competences"}
                </span>
              )}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function standing(p: Person): string {
  if (p.left_at) return `left ${p.left_at.slice(0, 10)}`;
  if (!p.has_access) return `access ended ${p.access_until}`;
  const devices = p.devices === 1 ? "1 device signed in" : `${p.devices} devices signed in`;
  return p.access_until ? `until ${p.access_until}, ${devices}` : devices;
}

/** Links nobody has used yet: each can be withdrawn. */
function OpenLinks() {
  const links = useLinks(true);
  const { act, wrong } = useAct("links");
  if (!links.data?.length) return null;
  const withdraw = (id: string) =>
    act(async () => unwrap(await api.DELETE("/api/links/{link_id}/", { params: { path: { link_id: id } } })));
  return (
    <section className="mt-8" aria-label="Open links">
      <h2 className="text-xl">Open links</h2>
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <ul className="border-t border-rule">
        {links.data.map((l) => (
          <li
            key={l.id}
            className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-1"
          >
            <span>
              {l.purpose === "invitation"
                ? `Invitation as ${l.role}${l.shown_name ? ` for ${l.shown_name}` : ""}`
                : `New password for ${l.member}`}
              <span className="block text-sm text-soft">
                made by {l.issued_by}, good until {l.expires_at.slice(0, 16).replace("T", " ")} UTC
              </span>
            </span>
            <Button weight="warn" onClick={() => void withdraw(l.id)}>
              Withdraw
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
