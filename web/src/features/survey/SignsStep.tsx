import { newId } from "@/shared/ids";
import { entriesOf, withEntry, withoutEntry } from "@/shared/records/entries";
import { useVocabulary } from "@/shared/records/reads";
import { Notice } from "@/shared/ui";
import type { StepProps } from "./stepProps";

/** Signs of pests and diseases: seen, or looked for and not there. */
export function SignsStep({ draft, change }: StepProps) {
  const vocabulary = useVocabulary();
  const set = (sign: string, present: boolean) =>
    void change((now) => {
      const before = entriesOf(now, "sign").find((e) => e.body.sign === sign);
      const others = withoutEntry(now.entries, before?.id);
      if (before && (before.body.present ?? true) === present) return { entries: others };
      return { entries: withEntry(others, { id: newId(), kind: "sign", body: { sign, present } }) };
    });
  const signs = entriesOf(draft, "sign").map((e) => e.body);
  return (
    <div className="grid gap-3">
      <p className="text-soft">What is seen on this tree today. A sign is a hint, not a diagnosis.</p>
      <ul className="border-t border-rule">
        {vocabulary.data?.signs.map((s) => {
          const mark = signs.find((d) => d.sign === s.id);
          return (
            <li
              key={s.id}
              className="grid grid-cols-[1fr_auto_auto] items-center gap-2 border-b border-rule py-1"
            >
              <span>
                {s.label}
                {mark?.present && <span className="block text-sm text-soft">{s.help}</span>}
              </span>
              <Toggle on={mark?.present === true} label={`${s.label}: seen`} onClick={() => set(s.id, true)}>
                seen
              </Toggle>
              <Toggle
                on={mark?.present === false}
                label={`${s.label}: looked, not there`}
                onClick={() => set(s.id, false)}
              >
                not there
              </Toggle>
            </li>
          );
        })}
      </ul>
      {signs.some((s) => s.present && s.sign === "conks") && (
        <Notice kind="caution">
          Decay inside may be far wider than it shows. Keep clear of the fall line; a qualified assessor
          decides.
        </Notice>
      )}
    </div>
  );
}

function Toggle({
  on,
  label,
  onClick,
  children,
}: {
  on: boolean;
  label: string;
  onClick: () => void;
  children: string;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={label}
      onClick={onClick}
      className={`target rounded-tile border-2 px-3 text-sm ${on ? "border-ink bg-ink font-bold text-paper" : "border-rule bg-sheet"}`}
    >
      {children}
    </button>
  );
}
