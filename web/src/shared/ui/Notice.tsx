import type { ReactNode } from "react";

const LOOKS = {
  caution: "border-ochre bg-ochre-wash",
  refused: "border-rust bg-sheet",
  plain: "border-rule bg-sheet",
};

/** Something to know before going on: a caution, a refusal, or a plain word. */
export function Notice({
  kind = "plain",
  title,
  children,
}: {
  kind?: keyof typeof LOOKS;
  title?: string;
  children?: ReactNode;
}) {
  return (
    <div
      className={`border-2 rounded-tile px-3 py-2 ${LOOKS[kind]}`}
      role={kind === "refused" ? "alert" : undefined}
    >
      {title && <strong>{title} </strong>}
      {children}
    </div>
  );
}
