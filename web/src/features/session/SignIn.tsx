import { zodResolver } from "@hookform/resolvers/zod";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { z } from "zod";
import { api, type Schemas, unwrap } from "@/api/client";
import { Button, Field, Notice } from "@/shared/ui";
import { useFirstRun } from "@/shared/useFirstRun";

const form = z.object({
  username: z.string().min(1, "Give your name"),
  password: z.string().min(1, "Give your password"),
});

type SignedIn = Schemas["Member"];

export function SignIn() {
  const queryClient = useQueryClient();
  const firstRun = useFirstRun();
  return (
    <main className="mx-auto grid min-h-dvh max-w-md content-center gap-4 p-6">
      <h1 className="text-4xl">Jubark</h1>
      <p className="text-soft">Names woody plants by evidence, and keeps a record of each tree.</p>
      {firstRun.data && (
        <Notice kind="caution">
          There is no organisation here yet. Open the address that was printed when Jubark was started: it
          ends in first-run and a token.
        </Notice>
      )}
      <SignInForm
        onSignedIn={async (member) => {
          // what somebody else may have read here before; who is signed in is being looked at
          queryClient.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
          queryClient.setQueryData(["session"], member);
          await queryClient.invalidateQueries({ queryKey: ["session"] });
        }}
      />
    </main>
  );
}

/** Name and password; on a page of its own, or over the page whose session has ended. */
export function SignInForm({ onSignedIn }: { onSignedIn: (member: SignedIn) => Promise<void> | void }) {
  const [refused, setRefused] = useState("");
  const { register, handleSubmit, formState } = useForm({ resolver: zodResolver(form) });
  const signIn = handleSubmit(async (given) => {
    setRefused("");
    try {
      await onSignedIn(unwrap(await api.POST("/api/session/", { body: given })));
    } catch (error) {
      setRefused(error instanceof Error ? error.message : "Signing in failed.");
    }
  });
  return (
    <form onSubmit={(e) => void signIn(e)} className="grid gap-4" noValidate>
      <Field
        label="Name"
        autoComplete="username"
        autoCapitalize="none"
        error={formState.errors.username?.message}
        {...register("username")}
      />
      <Field
        label="Password"
        type="password"
        autoComplete="current-password"
        error={formState.errors.password?.message}
        {...register("password")}
      />
      {refused && <Notice kind="refused">{refused}</Notice>}
      <Button type="submit" weight="act" disabled={formState.isSubmitting}>
        Sign in
      </Button>
    </form>
  );
}
