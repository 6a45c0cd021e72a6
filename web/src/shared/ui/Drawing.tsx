/** A drawing of the core, beside words that say the same. */
export function Drawing({ svg, small = false }: { svg: string | undefined; small?: boolean }) {
  if (!svg) return null;
  return (
    <img
      alt="" // the words beside it say the same
      className={`shrink-0 bg-[#fdfaf2] ${small ? "size-14" : "size-20 sm:size-28"}`}
      src={`data:image/svg+xml,${encodeURIComponent(svg)}`}
    />
  );
}
