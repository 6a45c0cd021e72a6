/** How much harm a cause does, as a reader sees it. */
export const HARM_WORDS: Record<string, string> = {
  harmless: "harmless",
  minor: "minor",
  serious: "serious",
  kills: "kills",
};

/** The weight a class of harm is shown with; the word says it too. */
export const harmClass = (harm: string): string =>
  harm === "kills" || harm === "serious"
    ? "font-bold text-rust"
    : harm === "harmless"
      ? "text-moss"
      : "text-ochre";
