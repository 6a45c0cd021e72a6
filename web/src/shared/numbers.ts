/** A number as people type it: `23.5`, `23,5`, `−3`. null for anything else, and for nothing. */
export function readNumber(text: string): number | null {
  const plain = text.trim().replace(",", ".").replace("−", "-");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain)) return null;
  const number = Number(plain);
  return Number.isFinite(number) ? number : null;
}
