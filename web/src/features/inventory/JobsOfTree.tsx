import { inWords } from "@/shared/dates";
import type { Visit } from "@/shared/records/reads";
import { useVocabulary } from "@/shared/records/reads";
import { isOver, jobsOfTree } from "@/shared/work/jobsOfTree";

/** The jobs of a tree through their steps: what, when, by whom, and why not. */
export function JobsOfTree({ visits }: { visits: Visit[] }) {
  const rules = useVocabulary().data?.work_rules;
  const jobs = jobsOfTree(visits);
  if (jobs.length === 0) return null;
  return (
    <section aria-label="Work on this tree" className="my-4">
      <h2 className="text-xl">Work</h2>
      <ul className="border-t border-rule">
        {jobs.map((job) => (
          <li key={job.job} className="border-b border-rule py-2">
            <p>
              <b>{rules?.find((r) => r.id === job.rule)?.label ?? job.rule}</b>{" "}
              <span className={isOver(job) ? "text-soft" : "text-moss"}>{job.step}</span>
              {!isOver(job) && job.begins && ` for ${inWords(job.begins)}`}
            </p>
            {job.do && <p className="text-sm">{job.do}</p>}
            <p className="text-sm text-soft">
              {job.steps
                .map((s) =>
                  [s.body.step, inWords(s.on), s.body.reason || s.body.result].filter(Boolean).join(", "),
                )
                .join("; ")}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
