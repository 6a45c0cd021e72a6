import { useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { today } from "@/shared/dates";
import { useMember } from "@/shared/member";
import { useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { Field, PageState } from "@/shared/ui";
import { Portrait } from "./Portrait";

type Taxon = Vocabulary["taxa"][number];

/** The flora: a list that narrows as one types, and one taxon drawn and told. The address holds words and date. */
export function PortraitsPage() {
  const { taxon } = useParams();
  const [params, setParams] = useSearchParams();
  const member = useMember();
  const vocabulary = useVocabulary();
  const words = params.get("words") ?? "";
  const on = params.get("on") || today(member);
  const change = (key: string, value: string) =>
    setParams(
      (old) => {
        const next = new URLSearchParams(old);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const found = useMemo(() => narrowed(vocabulary.data?.taxa ?? [], words), [vocabulary.data, words]);
  if (!vocabulary.data) return <PageState error={vocabulary.error} what="the flora" />;
  return (
    <div className="lg:grid lg:h-dvh lg:grid-cols-[19rem_1fr]">
      <section className={`border-rule p-4 lg:overflow-y-auto lg:border-r ${taxon ? "hidden lg:block" : ""}`}>
        <h1 className="text-2xl">Portraits</h1>
        <Field label="Name, Latin or common" value={words} onChange={(e) => change("words", e.target.value)} className="mt-2" />
        <p className="mt-2 text-sm text-soft" role="status">
          {found.length === 0 ? "No such name in the flora." : `${found.length} taxa`}
        </p>
        <ul>
          {found.map((t) => (
            <li key={t.id}>
              <Link
                to={{ pathname: `/portraits/${t.id}`, search: params.toString() }}
                aria-current={t.id === taxon ? "page" : undefined}
                className="block border-b border-rule px-2 py-2 aria-[current=page]:bg-lichen"
              >
                <span className="latin text-lg">{t.name}</span>
                <span className="block text-sm text-soft">{t.common}</span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
      <section className={`p-4 lg:overflow-y-auto ${taxon ? "" : "hidden lg:block"}`}>
        {taxon ? (
          <Portrait key={taxon} taxon={taxon} on={on} onDate={(value) => change("on", value)} search={params.toString()} />
        ) : (
          <p className="max-w-prose text-soft">
            Pick a taxon. Its plates are drawn from its own numbers, for the day you choose; nothing is a photograph.
          </p>
        )}
      </section>
    </div>
  );
}

function narrowed(taxa: Taxon[], words: string): Taxon[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return taxa
    .filter((t) => !["genus", "family", "section", "group"].includes(t.rank))
    .filter((t) => wanted.every((w) => `${t.name} ${t.common}`.toLowerCase().includes(w)))
    .sort((a, b) => a.name.localeCompare(b.name));
}
