import { zodResolver } from "@hookform/resolvers/zod";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { z } from "zod";
import { api, unwrap } from "@/api/client";
import { Button, Field, Notice, PageState } from "@/shared/ui";
import { useFirstRun } from "@/shared/useFirstRun";
import { JoiningFields, joining, refusedAt } from "./Joining";
import { useSignedIn } from "./JoinPage";

const form = joining.extend({
  name: z.string().trim().min(1, "Give the name of the organisation").max(120),
});
type Given = z.infer<typeof form>;

/** The first run: the organisation and its owner; the first site follows. */
export function FirstRunPage() {
  const token = location.hash.slice(1);
  const needed = useFirstRun();
  const signedIn = useSignedIn();
  const [refused, setRefused] = useState("");
  const { register, handleSubmit, formState, setError } = useForm<Given>({ resolver: zodResolver(form) });
  const make = handleSubmit(async (given) => {
    try {
      await signedIn(
        unwrap(await api.POST("/api/first-run/", { body: { token, ...given } })),
        "/sites/new?first=1",
      );
    } catch (error) {
      const fields = ["name", "shown_name", "username", "password"] as const;
      setRefused(refusedAt(error, fields, (field, message) => setError(field, { message })));
    }
  });
  return (
    <main className="mx-auto grid min-h-dvh max-w-md content-center gap-4 p-6">
      <h1 className="text-4xl">Jubark</h1>
      {needed.data === undefined && <PageState error={needed.error} what="this installation" />}
      {needed.data === false && (
        <p>
          This installation has an organisation already.{" "}
          <Link to="/" className="text-slate underline">
            Sign in
          </Link>
          , or ask an owner of it for an invitation.
        </p>
      )}
      {needed.data && !token && (
        <Notice kind="caution">
          This address lacks its token. Open the whole address that was printed when Jubark was started.
        </Notice>
      )}
      {needed.data && token && (
        <form onSubmit={(e) => void make(e)} className="grid gap-4" noValidate>
          <p>
            Nobody is here yet. Make the organisation that keeps its records here, and yourself its owner. The
            first site comes next.
          </p>
          <Field
            label="Organisation"
            autoComplete="organization"
            error={formState.errors.name?.message}
            {...register("name")}
          />
          <JoiningFields register={register as never} errors={formState.errors} />
          {refused && <Notice kind="refused">{refused}</Notice>}
          <Button type="submit" weight="act" disabled={formState.isSubmitting}>
            Make the organisation
          </Button>
        </form>
      )}
    </main>
  );
}
