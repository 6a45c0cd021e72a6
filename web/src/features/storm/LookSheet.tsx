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

type Under = Look["under_it"][number];
const FIRST = [
  { id: "wires", label: "Wires on it, down or pulled tight" },
  { id: "person", label: "A person" },
  { id: "line_near", label: "A line near it" },
] as const;
const STAY_AWAY = {
  wires:
    "Stay 10 m away and keep others away. Treat every wire as live, also one that lies still. Call the operator of the line.",
  person:
    "Call the emergency number now. Stay out from under it; it can shift. If a wire may touch it, stay 10 m away, treat it as live, and call its operator.",
} as const;
const ALARMS = ["person", "wires"] as const;

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

/** The look at one tree: wires or a person first, both where both are, and then nothing further is asked. */
export function LookSheet({ row, before }: { row: Row; before: Look | undefined }) {
  const on = useToday(row.block_id);
  const save = useSave();
  const navigate = useNavigate();
  const [look, setLook] = useState<Partial<Look>>({});
  const [under, setUnder] = useState<Under[]>([]);
  const [alarms, setAlarms] = useState<(keyof typeof STAY_AWAY)[]>([]);
  const back = () => void navigate("/storm");
  const put = async (body: Look) => {
    const entries: EntryIn[] = [{ id: newId(), kind: "storm", body }];
    if (body.lies === "fallen") entries.push({ id: newId(), kind: "life", body: { state: "fallen" } });
    await save("visit", visitNow(row.id, on, entries));
  };
  const first = (answers: Under[]) => {
    const said = ALARMS.filter((a) => answers.includes(a));
    if (said.length === 0) return setLook({ under_it: answers });
    setAlarms([...said]); // said before it is saved: nothing may come between
    void put({ under_it: answers });
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
        <section aria-label="Wires, or a person under it?" className="grid gap-3">
          <h2 className="text-2xl">Wires, or a person under it?</h2>
          {FIRST.map((a) => (
            <button
              key={a.id}
              type="button"
              aria-pressed={under.includes(a.id)}
              className={`min-h-[64px] rounded-tile border-2 px-4 text-left text-xl ${under.includes(a.id) ? "border-ink bg-ink text-sheet" : "border-ink bg-sheet"}`}
              onClick={() =>
                setUnder(under.includes(a.id) ? under.filter((u) => u !== a.id) : [...under, a.id])
              }
            >
              {a.label}
            </button>
          ))}
          {ALARMS.filter((a) => under.includes(a)).map((a) => (
            <p key={a} role="status" className="border-l-4 border-rust pl-3 text-lg">
              {STAY_AWAY[a]}
            </p>
          ))}
          <Button
            weight="act"
            className="min-h-[64px] text-xl"
            onClick={() => first(under.length ? under : ["neither"])}
          >
            {under.length ? "That is what there is" : "None of these"}
          </Button>
        </section>
      ) : (
        step && <Ask asks={step.asks} answers={step.answers} onAnswer={(id) => void answer(step.field, id)} />
      )}
      <Button onClick={back}>Back without saving</Button>
      <Alert
        open={alarms.length > 0}
        title={alarms.map((a) => (a === "person" ? "A person is under it" : "Wires")).join("; ")}
        says={alarms.map((a) => STAY_AWAY[a]).join(" ")}
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
