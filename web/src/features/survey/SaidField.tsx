import { useState } from "react";
import { Field } from "@/shared/ui";

interface Props {
  label: string;
  value: string;
  onSay: (text: string) => void;
}

/** A line of text that is recorded as it is typed: what stands in the field does not wait for the device's store. */
export function SaidField({ label, value, onSay }: Props) {
  const [typed, setTyped] = useState(value);
  const say = (text: string) => {
    setTyped(text);
    onSay(text);
  };
  return <Field label={label} value={typed} onChange={(e) => say(e.target.value)} />;
}
