import type { Block } from "@/shared/records/reads";
import { Button } from "@/shared/ui";

/** Of more trees than are judged at once proposals are read block by block: each is one tap away. */
export function TooMany({
  trees,
  blocks,
  block,
  onBlock,
}: {
  trees: number;
  blocks: Block[];
  block: string;
  onBlock: (id: string) => void;
}) {
  const number = trees.toLocaleString("en");
  if (block) return <p>{number} trees of one block are more than are judged at once: divide the block.</p>;
  return (
    <>
      <p>{number} trees are more than are judged at once: choose a block to see what is proposed there.</p>
      <ul className="mt-3 flex flex-wrap gap-2">
        {blocks.map((b) => (
          <li key={b.id}>
            <Button onClick={() => onBlock(b.id)}>
              {b.name} · {b.plant_count.toLocaleString("en")}
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
