import { useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useState } from "react";
import { Link, NavLink, Outlet, useLocation, useNavigate } from "react-router";
import { api, Offline, unwrap } from "@/api/client";
import { useCoreOnDevice } from "@/core";
import { SessionEnded } from "@/features/session";
import { forgetMember } from "@/shared/forgetMember";
import { reaches, useMember } from "@/shared/member";
import { useDeviceTrouble, useOutboxCounts } from "@/shared/outbox";
import { type Shortcut, shortcutsNow, useShortcuts } from "@/shared/shortcuts";
import { Button, Dialog, Notice, PageState } from "@/shared/ui";
import { CoreStanding } from "./CoreStanding";
import { currentMode, MODES, type Mode, setMode } from "./mode";
import { OutboxTray } from "./OutboxTray";

// desk: on a phone it is reached from Today, so that the bar keeps room for a thumb
const PLACES: { to: string; label: string; key: string; desk?: boolean }[] = [
  { to: "/", label: "Today", key: "T" },
  { to: "/map", label: "Map", key: "M" },
  { to: "/survey", label: "Survey", key: "S" },
  { to: "/identify", label: "Identify", key: "I" },
  { to: "/inventory", label: "Inventory", key: "V" },
  { to: "/inspections", label: "Inspections", key: "N", desk: true },
  { to: "/health", label: "Plant health", key: "H", desk: true },
  { to: "/work", label: "Work", key: "W", desk: true },
  { to: "/species", label: "Species", key: "P" },
  { to: "/import-export", label: "Import & export", key: "E" },
];

/** Pages behind the account, for who may open them. */
const OFFICE = [
  { to: "/account", label: "Password and devices", role: "viewer", title: "Account" },
  { to: "/people", label: "People", role: "steward", title: "People" },
  { to: "/contacts", label: "People outside", role: "steward", title: "People outside" },
  { to: "/audit", label: "Who did what", role: "owner", title: "Who did what" },
] as const;

/** Addresses that are no place of the bar, and their titles. */
const TITLES = [
  ...OFFICE.map((page) => [page.to, page.title] as const),
  ["/history", "History"],
  ["/side", "Side by side"],
  ["/year", "The year here"],
  ["/glossary", "Glossary"],
  ["/storm", "After a storm"],
  ["/sites", "Site"],
] as const;

/** The places of the app, and at all times what is saved on this device, sent, or needs a person. */
export function Frame() {
  const [tray, setTray] = useState(false);
  const [more, setMore] = useState(false);
  const { pathname } = useLocation();
  const [keys, setKeys] = useState<Shortcut[] | null>(null);
  const navigate = useNavigate();
  useShortcuts([
    ...PLACES.map((p) => ({ key: p.key, label: p.label, run: () => navigate(p.to) })),
    { key: "?", label: "the keys of this screen", run: () => setKeys(shortcutsNow()) },
  ]);
  const onSheet = /^\/(survey|identify)\/./.test(pathname);
  useTitle(pathname);
  useCoreOnDevice();
  return (
    <div className="min-h-dvh md:grid md:grid-cols-[7.5rem_1fr] print:block!">
      <a
        href="#page"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-3"
      >
        To the page
      </a>
      <nav
        aria-label="Places"
        className={`bg-board text-onboard md:sticky md:top-0 md:flex md:h-dvh md:flex-col print:hidden! ${onSheet ? "hidden md:flex" : "fixed inset-x-0 bottom-0 z-30 flex md:static md:z-auto md:sticky"}`}
      >
        <p className="hidden px-4 pb-4 pt-6 figure text-2xl font-semibold md:block">Jubark</p>
        <ul className="flex flex-1 md:block">
          {PLACES.map((place) => (
            <li key={place.to} className={`flex-1 ${place.desk ? "hidden md:block" : ""}`}>
              <NavLink
                to={place.to}
                end={place.to === "/"}
                className={({ isActive }) =>
                  `flex min-h-[56px] items-center justify-center px-0.5 text-center text-xs leading-tight md:justify-start md:text-left md:px-4 md:text-base ${isActive ? "bg-paper font-bold text-ink" : ""}`
                }
              >
                {place.label}
              </NavLink>
            </li>
          ))}
        </ul>
        <div className="hidden p-3 md:block">
          <OutboxButton onClick={() => setTray(true)} />
          <button
            type="button"
            className="mt-2 w-full border-2 border-transparent py-2 text-left text-sm underline"
            onClick={() => setMore(true)}
          >
            Account
          </button>
        </div>
      </nav>
      <main id="page" className={onSheet ? "" : "pb-20 md:pb-0"}>
        <SessionEnded />
        <DeviceTrouble />
        {!onSheet && (
          <div className="flex items-center justify-between border-b border-rule px-4 py-2 md:hidden print:hidden">
            <OutboxButton onClick={() => setTray(true)} inPage />
            <button
              type="button"
              className="target text-sm text-slate underline"
              onClick={() => setMore(true)}
            >
              Account
            </button>
          </div>
        )}
        <Suspense fallback={<PageState error={null} what="the page" />}>
          <Outlet />
        </Suspense>
      </main>
      <Dialog open={tray} onOpenChange={setTray} title="Saved on this device">
        <OutboxTray />
        <CoreStanding />
      </Dialog>
      <Dialog open={keys !== null} onOpenChange={() => setKeys(null)} title="Keys of this screen">
        <dl className="grid grid-cols-2 gap-x-6 sm:grid-cols-3">
          {keys?.map((k) => (
            <div key={`${k.key} ${k.label}`} className="flex gap-3 border-b border-rule py-1">
              <dt className="w-14 font-bold">{k.key}</dt>
              <dd>{k.label}</dd>
            </div>
          ))}
        </dl>
      </Dialog>
      <Dialog open={more} onOpenChange={setMore} title="Account">
        <Account onGo={() => setMore(false)} />
      </Dialog>
    </div>
  );
}

/** A write to the device that failed, said until one succeeds again. */
function DeviceTrouble() {
  const trouble = useDeviceTrouble();
  return trouble && <Notice kind="refused">{trouble}</Notice>;
}

function useTitle(pathname: string) {
  useEffect(() => {
    const place =
      PLACES.find((p) => p.to !== "/" && pathname.startsWith(p.to))?.label ??
      TITLES.find(([address]) => pathname.startsWith(address))?.[1] ??
      "Today";
    document.title = `${place} · Jubark`;
  }, [pathname]);
}

function OutboxButton({ onClick, inPage = false }: { onClick: () => void; inPage?: boolean }) {
  const { kept, sent, needsAttention, known } = useOutboxCounts();
  const words = !known
    ? "…"
    : needsAttention
      ? `${needsAttention} needs attention`
      : kept
        ? `${kept} saved on this device`
        : sent
          ? `${sent} sent`
          : "all sent";
  return (
    <button
      type="button"
      onClick={onClick}
      aria-label={`Outbox: ${known ? "" : "reading, "}${kept} saved on this device, ${sent} sent, ${needsAttention} needs attention`}
      className={`min-h-[44px] w-full border-2 px-2 text-sm md:w-full ${inPage ? "w-auto border-rule text-ink" : "border-soft"} ${needsAttention ? "border-ochre font-bold" : ""}`}
    >
      <span role="status">{words}</span>
    </button>
  );
}

function Account({ onGo }: { onGo: () => void }) {
  const member = useMember();
  const queryClient = useQueryClient();
  const { kept, needsAttention, known } = useOutboxCounts();
  const [mode, choose] = useState<Mode>(currentMode());
  const [sure, setSure] = useState(false);
  const [refused, setRefused] = useState("");
  const unsent = kept + needsAttention;
  const leave = async () => {
    if (unsent && !sure) return setSure(true);
    try {
      unwrap(await api.DELETE("/api/session/"));
    } catch (error) {
      const offline =
        "You are offline. Signing out needs the server; lock the device until then. What you saved stays here.";
      return setRefused(error instanceof Offline ? offline : String((error as Error).message));
    }
    await forgetMember();
    queryClient.clear();
    location.assign("/");
  };
  return (
    <div className="space-y-4">
      <p>
        {member.shown_name}, {member.role} of {member.organisation_name}
        {!reaches(member, "surveyor") && (
          <span className="block text-soft">You may look at everything and change nothing.</span>
        )}
      </p>
      <nav aria-label="Account pages" className="flex flex-wrap gap-x-6">
        {OFFICE.filter((page) => reaches(member, page.role)).map((page) => (
          <Link
            key={page.to}
            to={page.to}
            onClick={onGo}
            className="target inline-flex items-center text-slate underline"
          >
            {page.label}
          </Link>
        ))}
      </nav>
      <CoreStanding />
      <div className="flex flex-wrap gap-2">
        {MODES.map((m) => (
          <Button
            key={m}
            aria-pressed={m === mode}
            weight={m === mode ? "act" : "plain"}
            onClick={() => {
              setMode(m);
              choose(m);
            }}
          >
            {m === "sun" ? "full sun" : m}
          </Button>
        ))}
      </div>
      {sure && unsent > 0 && (
        <p role="alert" className="text-rust">
          {unsent} not sent yet. They stay on this device and are sent when you sign in here again. Press once
          more to sign out.
        </p>
      )}
      {refused && <Notice kind="refused">{refused}</Notice>}
      {/* not before it is known whether anything would be left behind */}
      <Button weight="warn" disabled={!known} onClick={() => void leave()}>
        Sign out
      </Button>
    </div>
  );
}
