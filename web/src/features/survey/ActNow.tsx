import { useState } from "react";
import type { Schemas } from "@/api/client";
import type { BodyOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Choice, Field, Notice } from "@/shared/ui";
import { Alert } from "@/shared/ui/Alert";

type Risk = BodyOf<"risk">;

interface Props {
  sheet: Risk;
  act: Schemas["Act"];
  vocabulary: Vocabulary;
  onPut: (part: Partial<Risk>) => void;
}

/**
 * What has to be done before anything else. Where it is now, it stands over everything until it is said whether people
 * were kept out; what is less urgent stands in the sheet.
 */
export function ActNow({ sheet, act, vocabulary, onPut }: Props) {
  const [called, setCalled] = useState(sheet.called ?? "");
  const [kept, setKept] = useState<NonNullable<Risk["kept_out"]>>("");
  if (act.urgency === "none") return null;
  const asked = act.urgency === "now" && !sheet.kept_out;
  const slip = () =>
    onPut({
      rows: sheet.rows.map((r) =>
        r.failure === "imminent" ? ({ ...r, failure: "" } as unknown as Risk["rows"][number]) : r,
      ),
    });
  return (
    <>
      <Notice kind={act.urgency === "now" ? "refused" : "caution"} title={TITLES[act.urgency]}>
        {act.says}
        {sheet.kept_out && ` People kept out: ${label(vocabulary, sheet.kept_out)}.`}
        {sheet.called && ` Called: ${sheet.called}.`}
      </Notice>
      <Alert open={asked} title={TITLES.now} says={act.says}>
        <Choice
          label="People kept out"
          value={kept}
          onChange={(word) => setKept(word as NonNullable<Risk["kept_out"]>)}
          options={vocabulary.judged["kept_out"] ?? []}
        />
        <Field
          label="Who was called, and when"
          value={called}
          maxLength={120}
          onChange={(e) => setCalled(e.target.value)}
        />
        <div className="flex flex-wrap gap-2">
          <Button
            weight="act"
            className="flex-1"
            disabled={!kept}
            onClick={() => onPut({ kept_out: kept, called })}
          >
            Go on with the sheet
          </Button>
          <Button onClick={slip}>A slip: judge failure anew</Button>
        </div>
      </Alert>
    </>
  );
}

const TITLES = {
  now: "Keep people out, now.",
  within_days: "High.",
  warn: "Imminent.",
  none: "",
} as const;

const label = (vocabulary: Vocabulary, word: string) =>
  vocabulary.judged["kept_out"]?.find((w) => w.id === word)?.label ?? word;
