import type { ButtonHTMLAttributes, Ref } from "react";

type Weight = "act" | "plain" | "quiet" | "warn";
const LOOKS: Record<Weight, string> = {
  act: "bg-moss text-onmoss border-moss font-bold",
  plain: "bg-sheet text-ink border-rule",
  quiet: "bg-transparent text-slate border-transparent underline underline-offset-4",
  warn: "bg-sheet text-rust border-rust",
};

/** A button; `act` is the one thing the screen is for. */
export function Button({
  weight = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { weight?: Weight; ref?: Ref<HTMLButtonElement> }) {
  return (
    <button
      type="button"
      className={`target rounded-tile border-2 px-4 text-base disabled:opacity-60 disabled:cursor-not-allowed ${LOOKS[weight]} ${className}`}
      {...rest}
    />
  );
}
