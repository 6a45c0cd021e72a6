import { useEffect, useState } from "react";
import type { Figure } from "./useFigure";

const SAME = 1e-6;

/**
 * Goes on by itself once a figure that was just entered has been checked and nothing speaks against it; where
 * something does, the sheet stays. Offline nothing can be checked: it goes on.
 */
export function useGoOn(figure: Figure, next: () => void): (value: number) => void {
  const [awaited, setAwaited] = useState<number | null>(null);
  const { checked, error, offline, value } = figure;
  useEffect(() => {
    if (awaited === null) return;
    const arrived = checked !== undefined && Math.abs(checked.value - awaited) < SAME * awaited;
    const unchecked = offline && value !== null && Math.abs(value - awaited) < SAME * awaited;
    if (!arrived && !unchecked && !error) return;
    setAwaited(null);
    if (!error && !checked?.warnings.length && !checked?.warning) next();
  }, [awaited, checked, error, offline, value, next]);
  return setAwaited;
}
