import { useState } from "react";

// Steps of Jeffreys (1961), Theory of Probability, appendix B: odds of 10 and of √10 to one, in bits.
const STRONG_BITS = Math.log2(10);
const FAIR_BITS = Math.log2(10) / 2;
const WEAK_BITS = 0.5;
// What an observation is expected to tell before it is made is less: a coin's worth would be one bit.
const MUCH_BITS = 0.5;
const SOME_BITS = 0.15;

/** How far an observation that was made moves the odds between two candidates. */
export function strengthOf(bits: number): string {
  const moved = Math.abs(bits);
  return moved >= STRONG_BITS ? "strong" : moved >= FAIR_BITS ? "fair" : moved >= WEAK_BITS ? "weak" : "none";
}

/** How much an observation that could be made is expected to tell. */
export function expectedOf(bits: number): string {
  return bits >= MUCH_BITS ? "tells much" : bits >= SOME_BITS ? "tells something" : "tells little";
}

/** The word; on tap the number behind it. */
export function Strength({ bits, expected = false }: { bits: number; expected?: boolean }) {
  const [number, setNumber] = useState(false);
  const digits = expected ? 2 : 1;
  return (
    <button
      type="button"
      className="min-h-[53px] underline decoration-dotted underline-offset-4"
      aria-label={`Strength of evidence: ${expected ? expectedOf(bits) : strengthOf(bits)}`}
      onClick={() => setNumber(!number)}
    >
      {number ? `${Math.abs(bits).toFixed(digits)} bits` : expected ? expectedOf(bits) : strengthOf(bits)}
    </button>
  );
}
