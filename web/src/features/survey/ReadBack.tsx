import { useEffect, useState } from "react";

const SHOWN_MS = 3000;

/** The number that was entered, large, for three seconds: read it back to who measures. It takes no taps. */
export function ReadBack({ said }: { said: { words: string; at: number } | null }) {
  const [shown, setShown] = useState(false);
  useEffect(() => {
    if (!said) return;
    setShown(true);
    const gone = setTimeout(() => setShown(false), SHOWN_MS);
    return () => clearTimeout(gone);
  }, [said]);
  if (!shown || !said) return null;
  return (
    <p
      role="status"
      className="pointer-events-none fixed inset-x-0 top-1 z-40 mx-auto w-fit border-4 border-ink bg-sheet px-8 py-4 figure text-7xl font-semibold"
    >
      {said.words}
    </p>
  );
}
