/** A probability as it is said: never 100 %. */
export const percent = (p: number) => (p > 0.995 ? "over 99 %" : `${Math.round(p * 100)} %`);
