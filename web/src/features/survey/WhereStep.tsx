import { useLocation } from "react-router";
import { withOne } from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";
import { usePlant } from "@/shared/records/reads";
import { useUnits } from "@/shared/site/units";
import { Button, Field } from "@/shared/ui";
import { WhereAndWhen } from "@/shared/visit/WhereAndWhen";
import { DiskRoom } from "./DiskRoom";
import { lastAnswers } from "./lastAnswers";
import type { StepProps } from "./stepProps";
import type { OnTheWay } from "./useSaveVisit";

/** Which stem, made sure of by its tag or its place in the row; then the circumstances. */
export function WhereStep({ draft, row, change, next }: StepProps) {
  const plant = usePlant(row && row.visits > 0 ? draft.plant : undefined);
  const place = plant.data?.row_name ? `${plant.data.row_name}, place ${plant.data.row_position}` : "";
  const last = lastAnswers();
  const units = useUnits();
  const sure = (confirmed: string) => {
    void change({ confirmed });
    next();
  };
  const way = useLocation().state as OnTheWay | null;
  return (
    <div className="grid gap-4">
      <DiskRoom />
      {way && (
        <p role="status">
          {way.saved ? `Tag ${way.saved} is saved. ` : "The last tree is saved. "}
          {way.metres !== null && (
            <strong>
              This one is {units.shown(way.metres, "m", way.metres < 10 ? 1 : 0)} to the {way.towards} of it.
            </strong>
          )}
        </p>
      )}
      {row?.tag ? (
        <div>
          <p>Read the tag on the tree.</p>
          <div className="mt-2 flex flex-wrap gap-2">
            <Button weight="act" autoFocus onClick={() => sure("tag")}>
              It is tag <span className="figure text-xl">{row.tag}</span>
            </Button>
            {place && (
              <Button onClick={() => sure("row")}>
                No tag to read: it is {place}
                {row.name && `, ${row.name}`}
              </Button>
            )}
          </div>
          <p className="mt-1 text-sm text-soft">
            Another number? Go back to the map: under crowns a position errs by more than the next tree stands
            off.
          </p>
        </div>
      ) : (
        <Field
          label="Tag"
          value={entryOf(draft, "tag")?.body.number ?? ""}
          maxLength={20}
          onChange={(e) => {
            const number = e.target.value.trim();
            void change((now) => withOne(now, "tag", number ? { number } : null));
          }}
        />
      )}
      {last &&
        (last.setting !== draft.setting || last.origin !== draft.origin || last.stage !== draft.stage) && (
          <Button
            onClick={() => void change({ setting: last.setting, origin: last.origin, stage: last.stage })}
          >
            Same as the last tree: {last.setting.replaceAll("_", " ")},{" "}
            {last.origin === "unknown" ? "origin not known" : last.origin}, {last.stage}
          </Button>
        )}
      <WhereAndWhen draft={draft} change={change} />
    </div>
  );
}
