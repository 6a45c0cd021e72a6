/** The conventions of breast height, in metres; any other height of a tape was found on the stem itself. */
export const BREAST_HEIGHTS_M = [1.3, 1.37, 1.4, 1.5];

export const isConvention = (heightM: number) => BREAST_HEIGHTS_M.some((h) => Math.abs(h - heightM) < 0.015);
