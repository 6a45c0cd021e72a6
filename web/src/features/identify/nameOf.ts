import type { Vocabulary } from "@/shared/records/reads";

/** The common name of a hypothesis, its scientific one where it has none. */
export function nameOf(vocabulary: Vocabulary, taxon: string): string {
  if (taxon === "unlisted") return "not in this list";
  const node = vocabulary.taxa.find((t) => t.id === taxon);
  return node
    ? node.common || node.name
    : `another ${vocabulary.taxa.find((t) => t.id === taxon.replace(/-unlisted$/, ""))?.name ?? ""}`;
}
