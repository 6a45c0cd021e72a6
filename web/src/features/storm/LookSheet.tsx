import { useState } from "react";
import { useNavigate } from "react-router";
import { newId } from "@/shared/ids";
import { useSave } from "@/shared/outbox";
import { visitNow } from "@/shared/records/draft";
import type { EntryIn } from "@/shared/records/entries";
import { useToday } from "@/shared/records/place";
import type { Row } from "@/shared/records/reads";
import { Button } from "@/shared/ui";
import { Alert } from "@/shared/ui/Alert";
import type { Look } from "./useStorm";

const FIRST = [
  { id: "wires", label: "Wires" },
  { id: "person", label: "A person" },
  { id: "neither", label: "Neither" },
] as const;
const STAY_AWAY = {
  wires:
    "Stay 10 m away and keep others away. Treat every wire as live, also one that lies still. Call the operator of the line.",
  person:
    "Call the emergency number now. Stay out from under it; it can shift. If a wire may touch it, stay 10 m away, treat it as live, and call its operator.",
} as const;

/** Three taps once nobody and no wire is under it; the last one saves. */
const THEN = [
  {
    field: "lies",
    asks: "How does it stand?",
    answers: [
      { id: "standing", label: "standing" },
      { id: "fallen", label: "fallen" },
      { id: "hung_up", label: "hung up in another" },
    ],
  },
  {
    field: "blocks",
    asks: "What does it block?",
    answers: [
      { id: "road", label: "a road" },
      { id: "path", label: "a path" },
      { id: "building", label: "a building" },
      { id: "nothing", label: "nothing" },
    ],
  },
  {
    field: "next_step",
    asks: "What has to be done?",
    answers: [
      { id: "clear_now", label: "clear it now" },
      { id: "clear_later", label: "clear it later" },
      { id: "assessor", label: "an assessor looks at it" },
      { id: "nothing", label: "nothing" },
    ],
  },
] as const;

/** The look at one tree: wires or a person first, and then nothing further is asked. */
export function LookSheet({ row, before }: { row: Row; before: Look | undefined }) {
  const on = useToday(row.block_id);
  const save = useSave();
  const navigate = useNavigate();
  const [look, setLook] = useState<Partial<Look>>({});
  const [alarm, setAlarm] = useState<keyof typeof STAY_AWAY | null>(null);
  const back = () => void navigate("/storm");
  const put = async (body: Look) => {
    const entries: EntryIn[] = [{ id: newId(), kind: "storm", body }];
    if (body.lies === "fallen") entries.push({ id: newId(), kind: "life", body: { state: "fallen" } });
    await save("visit", visitNow(row.id, on, entries));
  };
  const first = (answer: (typeof FIRST)[number]["id"]) => {
    if (answer === "neither") return setLook({ under_it: answer });
    setAlarm(answer); // said before it is saved: nothing may come between
    void put({ under_it: answer });
  };
  const step = THEN.find((s) => !look[s.field]);
  const answer = async (field: (typeof THEN)[number]["field"], id: string) => {
    const next = { ...look, [field]: id } as Look;
    setLook(next);
    if (field !== "next_step") return;
    await put(next);
    back();
  };
  return (
    <div className="grid gap-4">
      <p>
        <span className="figure text-3xl font-semibold">{row.tag ? `Tag ${row.tag}` : "No tag"}</span>{" "}
        <span className="latin text-lg">{row.name || "not named"}</span>
      </p>
      {before && (
        <p className="text-soft">It was looked at already since the storm; this look comes after it.</p>
      )}
      {!look.under_it ? (
        <Ask asks="Wires, or a person under it?" answers={FIRST} onAnswer={(id) => first(id as "wires")} />
      ) : (
        step && <Ask asks={step.asks} answers={step.answers} onAnswer={(id) => void answer(step.field, id)} />
      )}
      <Button onClick={back}>Back without saving</Button>
      <Alert
        open={alarm !== null}
        title={alarm === "person" ? "A person is under it" : "Wires"}
        says={alarm ? STAY_AWAY[alarm] : ""}
      >
        <p>It is saved on this device and stands first in the list. Nothing further is asked.</p>
        <Button weight="act" onClick={back}>
          To the list
        </Button>
      </Alert>
    </div>
  );
}

interface AskProps {
  asks: string;
  answers: readonly { id: string; label: string }[];
  onAnswer: (id: string) => void;
}

function Ask({ asks, answers, onAnswer }: AskProps) {
  return (
    <section aria-label={asks} className="grid gap-3">
      <h2 className="text-2xl">{asks}</h2>
      {answers.map((a) => (
        <button
          key={a.id}
          type="button"
          className="min-h-[64px] rounded-tile border-2 border-ink bg-sheet px-4 text-left text-xl"
          onClick={() => onAnswer(a.id)}
        >
          {a.label}
        </button>
      ))}
    </section>
  );
}
