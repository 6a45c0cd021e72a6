import type { InputHTMLAttributes, ReactNode, Ref, SelectHTMLAttributes } from "react";
import { useId } from "react";

const BOX =
  "w-full min-h-[53px] rounded-tile border-2 border-rule bg-sheet px-3 text-base text-ink aria-invalid:border-rust";

interface Shared {
  label: string;
  error?: string | undefined;
  hint?: ReactNode;
}

/** A labelled input with its error below it, tied together for screen readers. */
export function Field({
  label,
  error,
  hint,
  className = "",
  ...rest
}: Shared & InputHTMLAttributes<HTMLInputElement> & { "data-letters"?: "keys" }) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-sm text-soft">
        {label}
      </label>
      <input
        id={id}
        className={BOX}
        aria-invalid={error ? true : undefined}
        aria-describedby={error || hint ? `${id}-said` : undefined}
        {...rest}
      />
      <Said id={`${id}-said`} error={error} hint={hint} />
    </div>
  );
}

/** A labelled choice from a list too long to show at once. */
export function Select({
  label,
  error,
  hint,
  className = "",
  children,
  ...rest
}: Shared & SelectHTMLAttributes<HTMLSelectElement> & { ref?: Ref<HTMLSelectElement> }) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-sm text-soft">
        {label}
      </label>
      <select id={id} className={BOX} aria-invalid={error ? true : undefined} {...rest}>
        {children}
      </select>
      <Said id={`${id}-said`} error={error} hint={hint} />
    </div>
  );
}

function Said({ id, error, hint }: { id: string; error?: string | undefined; hint?: ReactNode }) {
  if (!error && !hint) return null;
  return (
    <p
      id={id}
      className={`mt-1 text-sm ${error ? "text-rust" : "text-soft"}`}
      role={error ? "alert" : undefined}
    >
      {error ?? hint}
    </p>
  );
}

/** One figure, large enough to read at arm's length; the keys below it write into it. */
export function FigureField({
  label,
  unit,
  error,
  ...rest
}: { label: string; unit: string; error?: string | undefined } & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-sm text-soft">
        {label}
      </label>
      <div className="flex items-baseline gap-2 border-b-2 border-ink">
        <input
          id={id}
          className="figure w-full min-w-0 bg-transparent text-5xl font-semibold leading-tight placeholder:text-rule"
          autoComplete="off"
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? `${id}-said` : undefined}
          {...rest}
        />
        <span className="text-xl text-soft">{unit}</span>
      </div>
      <Said id={`${id}-said`} error={error} />
    </div>
  );
}
