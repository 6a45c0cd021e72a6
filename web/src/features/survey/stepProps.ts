import type { Change, Draft } from "@/shared/records/draft";
import type { Row, Site } from "@/shared/records/reads";

export interface StepProps {
  draft: Draft;
  row: Row | undefined;
  change: (part: Change) => Promise<unknown>;
  next: () => void;
  /** conventions of the site; unknown until it has been read */
  site: Site | undefined;
  /** reads an entered number back, large */
  say: (words: string) => void;
  /** puts the focus where Enter goes on */
  focusNext: () => void;
}
