import {
  createContext,
  type ReactNode,
  type RefObject,
  useContext,
  useEffect,
  useId,
  useMemo,
  useRef,
  useState,
} from "react";

/** What stands typed in a field and is not recorded yet. */
export interface Typed {
  /** records it; what is wrong with it where that cannot be done, else nothing */
  take: () => Promise<string> | string;
  /** empties the field */
  drop: () => void;
}

/** The fields of a sheet with something typed in them that is not recorded. */
export type Held = Map<string, RefObject<Typed>>;

interface Within {
  held: Held;
  texts: Record<string, string>;
  keep: (key: string, text: string) => void;
}

const Typing = createContext<Within | null>(null);

interface Props {
  held: Held;
  /** what stood typed when the sheet was last open, by field */
  texts: Record<string, string>;
  keep: (key: string, text: string) => void;
  children: ReactNode;
}

/** Around a sheet whose steps are left: nothing that stands typed in one of its fields is lost with it. */
export function TypedFields({ held, texts, keep, children }: Props) {
  const latest = useRef(keep);
  latest.current = keep;
  const first = useRef(texts);
  const within = useMemo(
    () => ({
      held,
      texts: first.current,
      keep: (key: string, text: string) => {
        first.current[key] = text;
        latest.current(key, text);
      },
    }),
    [held],
  );
  return <Typing.Provider value={within}>{children}</Typing.Provider>;
}

/** Says that a field holds something that is not recorded yet. Outside a sheet it says so to nobody. */
export function useTyped(open: boolean, typed: Typed): void {
  const held = useContext(Typing)?.held;
  const id = useId();
  const latest = useRef(typed);
  latest.current = typed;
  useEffect(() => {
    if (!held || !open) return;
    held.set(id, latest);
    return () => void held.delete(id);
  }, [held, id, open]);
}

/** A text being typed that survives the step, a reload, and the end of the battery. */
export function useTypedText(key: string, initial: string): [string, (text: string) => void] {
  const within = useContext(Typing);
  const [text, setText] = useState(within?.texts[key] || initial);
  const put = (next: string) => {
    setText(next);
    within?.keep(key, next === initial ? "" : next);
  };
  return [text, put];
}

/** Records everything that stands typed; what is wrong with the rest. */
export async function takeAll(held: Held): Promise<string[]> {
  const wrong: string[] = [];
  for (const field of [...held.values()]) {
    const why = await field.current?.take();
    if (why) wrong.push(why);
  }
  return wrong;
}

/** Empties every field that holds something unrecorded. */
export function dropAll(held: Held): void {
  for (const field of [...held.values()]) field.current?.drop();
}
