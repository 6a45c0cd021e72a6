import { useEffect, useState } from "react";

/** A box to tick. It shows the tick at once, though what it stands for is written to the device a moment later. */
export function Check({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  const [shown, setShown] = useState(checked);
  useEffect(() => setShown(checked), [checked]);
  return (
    <label className="flex min-h-[53px] items-center gap-2">
      <input
        type="checkbox"
        className="size-6 accent-moss"
        checked={shown}
        onChange={(e) => {
          setShown(e.target.checked);
          onChange(e.target.checked);
        }}
      />
      {label}
    </label>
  );
}
