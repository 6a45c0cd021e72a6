import { useState } from "react";
import { Button } from "./Button";

/** Throws something away for good: by a second tap. */
export function ThrowAway({ onThrowAway }: { onThrowAway: () => unknown }) {
  const [sure, setSure] = useState(false);
  return (
    <Button weight="warn" onClick={() => (sure ? void onThrowAway() : setSure(true))}>
      {sure ? "Throw away for good" : "Throw away"}
    </Button>
  );
}
