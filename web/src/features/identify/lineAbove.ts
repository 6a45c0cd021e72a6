import type { Vocabulary } from "@/shared/records/reads";

/** Genus and family above a taxon, nearest first. */
export function lineAbove(vocabulary: Vocabulary, taxon: string | undefined): Vocabulary["taxa"] {
  const nodes = new Map(vocabulary.taxa.map((t) => [t.id, t]));
  const line: Vocabulary["taxa"] = [];
  for (let t = nodes.get(nodes.get(taxon ?? "")?.parent ?? ""); t; t = nodes.get(t.parent ?? ""))
    line.push(t);
  return line;
}
