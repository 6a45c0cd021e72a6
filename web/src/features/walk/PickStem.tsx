import { Link } from "react-router";
import { useBlocks } from "@/shared/records/reads";
import { PageState } from "@/shared/ui";

/** Walk starts on the plan: pick the block, then the stem. */
export function PickStem() {
  const blocks = useBlocks();
  if (!blocks.data) return <PageState error={blocks.error} what="the blocks" />;
  return (
    <div className="mx-auto max-w-2xl p-4 md:p-8">
      <h1 className="mb-2 text-2xl">Walk</h1>
      <p className="mb-4 text-soft">Pick a block, then a stem on its plan, or set out a new one.</p>
      <ul className="border-t border-rule">
        {blocks.data.map((b) => (
          <li key={b.id} className="border-b border-rule">
            <Link to={`/ground/${b.id}`} className="flex min-h-[64px] items-center justify-between">
              <strong>{b.name}</strong>
              <span className="text-soft">{b.plant_count} plants</span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
