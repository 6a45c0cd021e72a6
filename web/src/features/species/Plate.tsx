import { useQuery } from "@tanstack/react-query";
import { core } from "@/core";
import { usePlaceOf } from "@/shared/records/place";
import { useVocabulary } from "@/shared/records/reads";

interface Props {
  taxon: string;
  name: string;
  part: string;
  on: string;
  stage?: string;
  block: string | undefined;
  className: string;
}

/** One drawn plate; on paper in every mode. Offline it says so instead of standing empty. */
export function Plate({ taxon, name, part, on, stage = "mature", block, className }: Props) {
  const flora = useVocabulary().data?.version;
  const asked = { taxon, part, on, stage, ...usePlaceOf(block) };
  const drawn = useQuery({
    queryKey: ["plate", flora, asked],
    enabled: flora !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
    retry: false,
    queryFn: () => core.plate(asked),
  });
  if (drawn.error)
    return <p className={`${className} p-2 text-sm text-soft`}>This plate cannot be drawn offline.</p>;
  if (!drawn.data) return <div className={`w-full bg-[#fdfaf2] ${className}`} aria-hidden="true" />;
  return (
    <img
      className={`w-full bg-[#fdfaf2] object-contain ${className}`}
      src={`data:image/svg+xml,${encodeURIComponent(drawn.data.svg)}`}
      alt={`${part} of ${name}, drawn from its description`}
    />
  );
}
