import { zodResolver } from "@hookform/resolvers/zod";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import { api, type Schemas, unwrap } from "@/api/client";
import { Button, Field, Notice, PageState } from "@/shared/ui";
import { type Joining, JoiningFields, joining, LEAST_PASSWORD, refusedAt } from "./Joining";

/** Where a link leads: joining by an invitation, or a new password. The token stands behind the #, which no server sees. */
export function JoinPage() {
  const token = location.hash.slice(1);
  const link = useQuery({
    queryKey: ["link", token],
    retry: false,
    queryFn: async () => unwrap(await api.POST("/api/links/look/", { body: { token } })),
  });
  const signedIn = useSignedIn();
  return (
    <main className="mx-auto grid min-h-dvh max-w-md content-center gap-4 p-6">
      <h1 className="text-4xl">Jubark</h1>
      {link.error && (
        <>
          <Notice kind="refused">{link.error.message}</Notice>
          <Link to="/" className="target inline-flex items-center text-slate underline">
            Sign in
          </Link>
        </>
      )}
      {!link.data && !link.error && <PageState error={null} what="the link" />}
      {link.data?.purpose === "invitation" && <Join token={token} link={link.data} onSignedIn={signedIn} />}
      {link.data?.purpose === "password" && (
        <NewPassword token={token} link={link.data} onSignedIn={signedIn} />
      )}
    </main>
  );
}

/** What follows once somebody is signed in by a link. */
export function useSignedIn() {
  const client = useQueryClient();
  const navigate = useNavigate();
  return async (member: Schemas["Member"], to = "/") => {
    client.clear(); // what somebody else may have read here before
    client.setQueryData(["session"], member);
    await navigate(to, { replace: true });
  };
}

interface Props {
  token: string;
  link: Schemas["LinkShown"];
  onSignedIn: (member: Schemas["Member"]) => Promise<void>;
}

function Join({ token, link, onSignedIn }: Props) {
  const [refused, setRefused] = useState("");
  const { register, handleSubmit, formState, setError } = useForm<Joining>({
    resolver: zodResolver(joining),
    defaultValues: { shown_name: link.shown_name, username: "", password: "" },
  });
  const join = handleSubmit(async (given) => {
    try {
      await onSignedIn(unwrap(await api.POST("/api/links/join/", { body: { token, ...given } })));
    } catch (error) {
      const fields = ["shown_name", "username", "password"] as const;
      setRefused(refusedAt(error, fields, (field, message) => setError(field, { message })));
    }
  });
  return (
    <form onSubmit={(e) => void join(e)} className="grid gap-4" noValidate>
      <p>
        You are invited to <strong>{link.organisation_name}</strong> as {link.role}
        {link.access_until && `, until ${link.access_until}`}.
      </p>
      <JoiningFields register={register} errors={formState.errors} />
      {refused && <Notice kind="refused">{refused}</Notice>}
      <Button type="submit" weight="act" disabled={formState.isSubmitting}>
        Join
      </Button>
    </form>
  );
}

function NewPassword({ token, link, onSignedIn }: Props) {
  const [password, setPassword] = useState("");
  const [refused, setRefused] = useState("");
  const [busy, setBusy] = useState(false);
  const save = async () => {
    setBusy(true);
    try {
      await onSignedIn(unwrap(await api.POST("/api/links/password/", { body: { token, password } })));
    } catch (error) {
      setRefused(error instanceof Error ? error.message : "Nothing was changed.");
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="grid gap-4"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <p>
        A new password for <strong>{link.member}</strong> of {link.organisation_name}. Every device is signed
        out; what they saved stays on them.
      </p>
      <Field
        label="New password"
        hint={`At least ${LEAST_PASSWORD} characters, none of the common ones.`}
        type="password"
        autoComplete="new-password"
        value={password}
        onChange={(e) => setPassword(e.target.value)}
      />
      {refused && <Notice kind="refused">{refused}</Notice>}
      <Button type="submit" weight="act" disabled={busy || password === ""}>
        Set the password
      </Button>
    </form>
  );
}
