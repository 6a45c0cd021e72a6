import { useState } from "react";

interface Props {
  taxon: string;
  name: string;
  part: string;
  on: string;
  stage?: string;
  block?: string;
  className: string;
}

/** One drawn plate; on paper in every mode. Out of signal it says so instead of standing empty. */
export function Plate({ taxon, name, part, on, stage = "mature", block, className }: Props) {
  const [failed, setFailed] = useState("");
  const source = `/api/core/plates/${taxon}/${part}/?on=${on}&stage=${stage}${block ? `&block=${block}` : ""}`;
  if (failed === source)
    return <p className={`${className} p-2 text-sm text-soft`}>This plate cannot be drawn offline.</p>;
  return (
    <img
      className={`w-full bg-[#fdfaf2] object-contain ${className}`}
      src={source}
      onError={() => setFailed(source)}
      alt={`${part} of ${name}, drawn from its description`}
    />
  );
}
