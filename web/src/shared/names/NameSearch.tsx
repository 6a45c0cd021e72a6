import { useQuery } from "@tanstack/react-query";
import type { KeyboardEvent } from "react";
import type { Schemas } from "@/api/client";
import { core } from "@/core";
import { useCounts } from "@/shared/records/place";
import { useTyped, useTypedText } from "@/shared/typed";
import { Button, Field } from "@/shared/ui";

type Found = Schemas["NameFound"];

/** A name as people write it: accepted, synonym, common, misspelt. Names that several genera share are said to be so. */
export function NameSearch({
  label,
  onTake,
  asEntered,
  onSame,
  onEmpty,
}: {
  label: string;
  onTake: (found: Found) => void;
  /** where what was typed may be kept although the flora does not know it */
  asEntered?: (words: string) => void;
  /** '=' in the empty field */
  onSame?: (() => unknown) | undefined;
  /** Enter in the empty field; where it is given, the keyboard is taken to the field at once */
  onEmpty?: () => void;
}) {
  const [typed, setTyped] = useTypedText("name", "");
  const words = typed.trim();
  useTyped(words !== "", {
    take: () => `“${words}” is typed as a name, and no name is chosen.`,
    drop: () => setTyped(""),
  });
  const counts = useCounts(); // names that are here come before those that are not
  const found = useQuery({
    queryKey: ["names", words, counts.data],
    enabled: words.length >= 2,
    queryFn: () => core.findNames({ words, counts: counts.data ?? {} }),
  });
  const take = (name: Found) => {
    setTyped("");
    onTake(name);
  };
  const onKey = (event: KeyboardEvent) => {
    const first = words.length >= 2 ? found.data?.[0] : undefined;
    if (event.key === "Enter" && first) take(first);
    else if (event.key === "=" && typed === "" && onSame) onSame();
    else if (event.key === "Enter" && typed === "" && onEmpty) onEmpty();
    else return;
    event.preventDefault();
  };
  return (
    <div>
      <Field
        label={label}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onKeyDown={onKey}
        autoComplete="off"
        autoFocus={onEmpty !== undefined && matchMedia("(pointer: fine)").matches}
        hint={onSame ? "Enter takes the first; = the name of the last tree" : "Enter takes the first"}
      />
      <SharedName words={words} found={found.data ?? []} />
      <ul className="mt-2 border-t border-rule">
        {words.length >= 2 &&
          found.data?.map((n) => (
            <li key={n.taxon} className="border-b border-rule">
              <button type="button" className="min-h-[53px] w-full text-left" onClick={() => take(n)}>
                <span className="latin text-lg">{n.name}</span>{" "}
                <span className="text-soft">{n.rank === "species" ? n.common : n.rank}</span>
                <HowFound found={n} />
              </button>
            </li>
          ))}
      </ul>
      {words.length >= 2 && found.error && <p className="mt-2 text-soft">Names are looked up when online.</p>}
      {asEntered && words.length >= 2 && (found.isFetched || found.error) && (
        <Button
          className="mt-2"
          onClick={() => {
            setTyped("");
            asEntered(words);
          }}
        >
          Use “{words}” as entered
        </Button>
      )}
    </div>
  );
}

/** By which wording it was found, where that was not its accepted name. */
export function HowFound({ found }: { found: Found }) {
  if (found.how === "accepted" || (found.how === "common" && found.matched === found.common)) return null;
  return (
    <span className="block text-sm text-soft">
      by{" "}
      {found.how === "spelling"
        ? "a likely spelling"
        : found.how === "common"
          ? "another common name"
          : found.how}
      : {found.matched}
    </span>
  );
}

/** A common name borne by several genera is no name yet. */
export function SharedName({ words, found }: { words: string; found: Found[] }) {
  const bearers = found.filter((n) => n.shared);
  const genera = [...new Set(bearers.map((n) => n.name.split(" ")[0]))];
  if (genera.length < 2) return null;
  return (
    <p role="status" className="mt-1 text-sm">
      “{words}” is said of several genera: <span className="latin">{genera.join(", ")}</span>. The Latin name
      tells which is meant.
    </p>
  );
}
