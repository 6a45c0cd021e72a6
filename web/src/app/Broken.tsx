import { Link } from "react-router";

/** An address that is not ours, or a page that failed. What was typed is kept on the device either way. */
export function Broken({ missing = false }: { missing?: boolean }) {
  return (
    <main className="mx-auto max-w-xl p-6">
      <h1 className="text-2xl">{missing ? "There is no such page" : "This page failed"}</h1>
      <p className="my-3">
        {missing
          ? "The address leads nowhere."
          : "Something in it went wrong. What you recorded is saved on this device."}
      </p>
      <Link to="/" className="text-slate underline">
        Back to Today
      </Link>
    </main>
  );
}
