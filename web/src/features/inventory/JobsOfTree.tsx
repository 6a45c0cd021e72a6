import { inWords } from "@/shared/dates";
import { useVocabulary } from "@/shared/records/reads";
import type { TreeJob } from "@/shared/tree-file";

/** The jobs of a tree through their steps: what, when, by whom, and why not. */
export function JobsOfTree({ jobs }: { jobs: TreeJob[] }) {
  const rules = useVocabulary().data?.work_rules;
  if (jobs.length === 0) return null;
  return (
    <section aria-label="Work on this tree" className="my-4">
      <h2 className="text-xl">Work</h2>
      <ul className="border-t border-rule">
        {jobs.map((job) => (
          <li key={job.job} className="border-b border-rule py-2">
            <p>
              <b>{rules?.find((r) => r.id === job.rule)?.label ?? job.rule}</b>{" "}
              <span className={job.is_over ? "text-soft" : "text-moss"}>{job.step}</span>
              {!job.is_over && job.begins && ` for ${inWords(job.begins)}`}
            </p>
            {job.do && <p className="text-sm">{job.do}</p>}
            {job.twice && <p className="text-sm text-rust">The same is open twice on this tree.</p>}
            {job.though_held_by && (
              <p className="text-sm text-rust">Done though held by wires, by {job.though_held_by}</p>
            )}
            <p className="text-sm text-soft">
              {job.steps
                .map(({ on, body }) =>
                  [body["step"], inWords(on), body["reason"] || body["result"]].filter(Boolean).join(", "),
                )
                .join("; ")}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
