import { useSearchParams } from "react-router";
import { useVocabulary } from "@/shared/records/reads";
import { useTermLabel } from "@/shared/terms/Term";
import { Field, PageState } from "@/shared/ui";

/** Every term on screen with its meaning and unit, in the words of the site's region. */
export function GlossaryPage() {
  const vocabulary = useVocabulary();
  const label = useTermLabel();
  const [params, setParams] = useSearchParams();
  const wanted = params.get("words") ?? "";
  if (!vocabulary.data) return <PageState error={vocabulary.error} what="the glossary" />;
  const terms = vocabulary.data.terms
    .map((t) => ({ ...t, shown: label(t.id, t.label) }))
    .filter((t) => `${t.shown} ${t.label} ${t.meaning}`.toLowerCase().includes(wanted.toLowerCase()))
    .sort((a, b) => a.shown.localeCompare(b.shown));
  return (
    <div className="mx-auto max-w-4xl p-4 md:p-6">
      <h1 className="mb-4 text-3xl">Glossary</h1>
      <Field
        label="Words in a term or its meaning"
        value={wanted}
        onChange={(e) => setParams(e.target.value ? { words: e.target.value } : {}, { replace: true })}
      />
      {terms.length === 0 && <p className="my-4">No term holds these words.</p>}
      <dl className="mt-4 border-t border-rule">
        {terms.map((t) => (
          <div key={t.id} className="grid gap-x-4 border-b border-rule py-2 md:grid-cols-[14rem_1fr]">
            <dt className="font-bold">
              {t.shown}
              {t.unit && <span className="font-normal"> ({t.unit})</span>}
            </dt>
            <dd>{t.meaning}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
