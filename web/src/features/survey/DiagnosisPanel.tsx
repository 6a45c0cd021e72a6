import { CauseBars, type HealthAnswer, harmClass } from "@/shared/health";
import { newId } from "@/shared/ids";
import type { Change, Draft } from "@/shared/records/draft";
import { type BodyOf, entryOf, withEntry, withoutEntry } from "@/shared/records/entries";
import { windowHere } from "@/shared/season-ring/DatesHere";
import { Button, Notice } from "@/shared/ui";

interface Props {
  answer: HealthAnswer;
  host: string;
  draft: Draft;
  change: (part: Change) => Promise<unknown>;
}

/** What the signs say so far, and what is recorded of it: a person decides. */
export function DiagnosisPanel({ answer, host, draft, change }: Props) {
  const recorded = entryOf(draft, "diagnosis");
  const put = (body: BodyOf<"diagnosis">) =>
    void change((now) => ({
      entries: withEntry(now.entries, {
        id: entryOf(now, "diagnosis")?.id ?? newId(),
        kind: "diagnosis",
        body,
      }),
    }));
  const leader = answer.candidates[0];
  const report = answer.report.filter((r) => r.now);
  return (
    <section aria-label="What it may be" className="grid gap-3 border-y-2 border-ink py-3">
      <h2 className="text-xl">What it may be</h2>
      <p
        className={`text-lg ${leader ? harmClass(answer.normal > leader.probability ? "harmless" : leader.class) : ""}`}
      >
        {answer.summary}
      </p>
      {answer.cautions.map((caution) => (
        <Notice key={caution} kind="caution">
          {caution}
        </Notice>
      ))}
      {report.map((r) => (
        <Notice key={r.agent} kind="caution" title={`${r.name}: ${r.standing}.`}>
          Anyone may tell it at once: {r.tell}. {r.hold}
        </Notice>
      ))}
      {answer.host_questioned && <Questioned asked={answer.host_questioned} />}
      {answer.host.length > 1 &&
        answer.host[0] &&
        answer.host[0].probability - answer.host[0].before > 0.2 && (
          <Notice>
            By these signs the name moves to <b>{answer.host[0].taxon}</b>. It is offered, not written: look
            again.
          </Notice>
        )}
      <CauseBars answer={answer} most={3} />
      {answer.normal_because.map((why) => (
        <p key={why} className="text-sm">
          {why}
        </p>
      ))}
      {recorded ? (
        <div className="flex items-center gap-3 rounded-tile border-2 border-moss bg-lichen px-3 py-2">
          <p className="flex-1">
            Recorded: <b>{inWords(recorded.body, answer)}</b>
          </p>
          <Button
            weight="warn"
            aria-label="Remove the diagnosis"
            onClick={() => void change((now) => ({ entries: withoutEntry(now.entries, recorded.id) }))}
          >
            ×
          </Button>
        </div>
      ) : (
        <div className="flex flex-wrap gap-2">
          {answer.candidates.slice(0, 2).map((c, i) => (
            <Button
              key={c.agent}
              weight={i === 0 ? "act" : "plain"}
              onClick={() => put(asDiagnosis(answer, c, host))}
            >
              Record {c.name}, {c.standing === "probable" ? "probable" : "suspicion"}
            </Button>
          ))}
          <Button onClick={() => put(without("normal", answer, host))}>Normal for the season</Button>
          <Button onClick={() => put(without("nothing_wrong", answer, host))}>Nothing wrong</Button>
          <Button onClick={() => put(without("unknown", answer, host))}>Not known</Button>
        </div>
      )}
      <More answer={answer} />
    </section>
  );
}

/** What it is taken for, what is usually done, and what to send. */
function More({ answer }: { answer: HealthAnswer }) {
  const leader = answer.candidates[0];
  if (!leader) return null;
  return (
    <details>
      <summary className="min-h-[53px] cursor-pointer py-3 text-slate underline">
        What is usually done, what it is taken for
      </summary>
      <div className="grid gap-2 text-sm">
        {answer.response.length > 0 && (
          <ul className="list-disc pl-5">
            {answer.response.map((r) => (
              <li key={r.do}>
                {r.do}{" "}
                <span className="text-soft">
                  {r.by && `By: ${r.by}. `}
                  {r.window && windowHere(r)}
                </span>
              </li>
            ))}
          </ul>
        )}
        <p className="text-soft">Local rules and licensed people decide.</p>
        {leader.friends.length > 0 && (
          <div>
            <p className="font-bold">Do not take it for</p>
            <ul className="list-disc pl-5">
              {leader.friends.map((f) => (
                <li key={f}>{f}</li>
              ))}
            </ul>
          </div>
        )}
        {answer.sample && (
          <p>
            <b>Sample:</b> {answer.sample.what}
          </p>
        )}
      </div>
    </details>
  );
}

function Questioned({ asked }: { asked: NonNullable<HealthAnswer["host_questioned"]> }) {
  return (
    <Notice kind="caution" title="The name, or the sign?">
      <p>{asked.if_the_name_is_wrong}</p>
      <p>{asked.if_the_sign_is_wrong}</p>
      <p>Look that decides: {asked.looks.map((l) => l.label.toLowerCase()).join(", ")}.</p>
    </Notice>
  );
}

const three = (p: number) => Math.round(p * 1000) / 1000;

/** A candidate as an entry: nothing is confirmed but by a laboratory or an officer. */
function asDiagnosis(
  answer: HealthAnswer,
  c: HealthAnswer["candidates"][number],
  host: string,
): BodyOf<"diagnosis"> {
  const others = answer.candidates.filter((o) => o.agent !== c.agent).slice(0, 4);
  return {
    verdict: "cause",
    cause: c.agent,
    standing: c.standing === "probable" || c.standing === "confirmed" ? "probable" : "suspicion",
    probability: three(c.probability),
    others: Object.fromEntries(others.map((o) => [o.agent, three(o.probability)])),
    host,
    engine: answer.engine,
  };
}

const without = (
  verdict: "normal" | "nothing_wrong" | "unknown",
  answer: HealthAnswer,
  host: string,
): BodyOf<"diagnosis"> => ({ verdict, probability: three(answer[verdict]), host, engine: answer.engine });

const VERDICTS = { normal: "normal for the season", nothing_wrong: "nothing wrong", unknown: "not known" };

function inWords(body: BodyOf<"diagnosis">, answer: HealthAnswer): string {
  if (body.verdict !== "cause") return VERDICTS[body.verdict];
  const name = answer.candidates.find((c) => c.agent === body.cause)?.name ?? body.cause;
  return `${name}, ${body.standing}`;
}
