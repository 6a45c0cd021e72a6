import { useDrawings } from "@/shared/records/reads";

/** The drawing of a sign, beside words that say the same; nothing where there is none. */
export function SignPicture({
  sign,
  version,
  className,
}: {
  sign: string;
  version: string;
  className: string;
}) {
  const drawing = useDrawings(version).data?.drawings["sign"]?.[sign];
  if (!drawing) return null;
  return (
    <img
      alt=""
      className={`bg-[#fdfaf2] ${className}`}
      src={`data:image/svg+xml,${encodeURIComponent(drawing)}`}
    />
  );
}
