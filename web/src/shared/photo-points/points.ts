import type { Point } from "@/shared/tree-file";

/** Where a photograph's file is read. */
export const fileOf = (picture: Point["pictures"][number]) => `/api/photos/${picture.id}/`;

/** How the stand is found again. */
export const standOf = ({ stand, bearing_deg }: Point["body"]) =>
  [stand, typeof bearing_deg === "number" && `looking ${Math.round(bearing_deg)}°`]
    .filter(Boolean)
    .join(", ");
