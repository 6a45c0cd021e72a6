import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "@/api/client";
import { forgetMember } from "@/shared/forgetMember";
import { useMember } from "@/shared/member";
import { useOutboxCounts } from "@/shared/outbox";
import { Button, Field, Notice, PageState } from "@/shared/ui";
import { useAct } from "./usePeople";

/** One's own account: name, password, devices, leaving. */
export function AccountPage() {
  const member = useMember();
  return (
    <div className="mx-auto grid max-w-2xl gap-8 p-4 md:p-8">
      <div>
        <h1 className="text-3xl">Account</h1>
        <p className="text-soft">
          {member.username}, {member.role} of {member.organisation_name}
          {member.access_until && `, access until ${member.access_until}`}
        </p>
      </div>
      <OwnName />
      <Password />
      <Devices />
      <Leave />
    </div>
  );
}

function OwnName() {
  const member = useMember();
  const client = useQueryClient();
  const [name, setName] = useState(member.shown_name);
  const { act, wrong, busy } = useAct("session");
  const save = () =>
    act(async () => {
      client.setQueryData(
        ["session"],
        unwrap(await api.PATCH("/api/account/", { body: { shown_name: name } })),
      );
    });
  return (
    <section className="grid gap-3">
      <Field
        label="Name others see"
        hint="Also on what you recorded before."
        maxLength={80}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button
        className="justify-self-start"
        disabled={busy || name === member.shown_name}
        onClick={() => void save()}
      >
        Save name
      </Button>
    </section>
  );
}

function Password() {
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const [done, setDone] = useState(false);
  const { act, wrong, busy } = useAct("sign-ins");
  const save = async () => {
    setDone(false);
    const changed = await act(async () =>
      unwrap(await api.POST("/api/account/password/", { body: { old, new: next } })),
    );
    if (!changed) return;
    setOld("");
    setNext("");
    setDone(true);
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <h2 className="text-xl">Password</h2>
      <Field
        label="Present password"
        type="password"
        autoComplete="current-password"
        value={old}
        onChange={(e) => setOld(e.target.value)}
      />
      <Field
        label="New password"
        hint="At least 8 characters, none of the common ones. Every other device is signed out."
        type="password"
        autoComplete="new-password"
        value={next}
        onChange={(e) => setNext(e.target.value)}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <p role="status" className={done ? "" : "sr-only"}>
        {done && "The password is changed; every other device is signed out."}
      </p>
      <Button type="submit" className="justify-self-start" disabled={busy || !old || !next}>
        Change password
      </Button>
    </form>
  );
}

function Devices() {
  const signIns = useQuery({
    queryKey: ["sign-ins"],
    queryFn: async () => unwrap(await api.GET("/api/account/sign-ins/")),
  });
  const { act, wrong } = useAct("sign-ins");
  if (!signIns.data) return <PageState error={signIns.error} what="your devices" />;
  const end = (id: string) =>
    act(async () =>
      unwrap(
        await api.DELETE("/api/account/sign-ins/{sign_in_id}/", { params: { path: { sign_in_id: id } } }),
      ),
    );
  const others = signIns.data.filter((s) => !s.this_one);
  return (
    <section aria-label="Devices">
      <h2 className="text-xl">Devices</h2>
      <p className="mb-2 text-sm text-soft">
        Where you are signed in. A device you sign out keeps what it has not sent until you sign in there
        again.
      </p>
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <ul className="border-t border-rule">
        {signIns.data.map((s) => (
          <li key={s.id} className="flex items-center justify-between gap-3 border-b border-rule py-1">
            <span>
              <strong>{s.device}</strong> {s.this_one && <span className="text-sm">(this one)</span>}
              <span className="block text-sm text-soft">
                since {s.signed_in_at.slice(0, 10)}, last seen {s.last_seen_at.slice(0, 16).replace("T", " ")}{" "}
                UTC
              </span>
            </span>
            {!s.this_one && <Button onClick={() => void end(s.id)}>Sign out there</Button>}
          </li>
        ))}
      </ul>
      {others.length > 1 && (
        <Button
          className="mt-3"
          onClick={() => void act(async () => unwrap(await api.DELETE("/api/account/sign-ins/")))}
        >
          Sign out everywhere but here
        </Button>
      )}
    </section>
  );
}

function Leave() {
  const member = useMember();
  const { kept, needsAttention } = useOutboxCounts();
  const [open, setOpen] = useState(false);
  const [password, setPassword] = useState("");
  const { act, wrong, busy } = useAct();
  const unsent = kept + needsAttention;
  const leave = async () => {
    const gone = await act(async () => {
      unwrap(await api.POST("/api/account/leave/", { body: { password } }));
      return true;
    });
    if (!gone) return;
    await forgetMember();
    location.assign("/");
  };
  return (
    <section className="grid gap-3">
      <h2 className="text-xl">Leave {member.organisation_name}</h2>
      {open ? (
        <>
          <p className="text-rust">
            You become a former member without a name; what you recorded stays. This cannot be undone: to come
            back you need a new invitation.
            {unsent > 0 && ` ${unsent} on this device are not sent yet and could not be sent any more.`}
          </p>
          <Field
            label="Your password"
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
          {wrong && <Notice kind="refused">{wrong}</Notice>}
          <Button
            weight="warn"
            className="justify-self-start"
            disabled={busy || !password}
            onClick={() => void leave()}
          >
            Leave for good
          </Button>
        </>
      ) : (
        <Button weight="warn" className="justify-self-start" onClick={() => setOpen(true)}>
          Leave the organisation
        </Button>
      )}
    </section>
  );
}
