import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense } from "react";
import { createBrowserRouter, RouterProvider, redirect } from "react-router";
import { Refused } from "@/api/client";
import { IdentifyPage } from "@/features/identify";
import { TodayPage } from "@/features/today";
import { PageState } from "@/shared/ui";
import { Broken } from "./Broken";
import { Gate } from "./Gate";

// Today and Identify come with the first load; the rest when it is opened (the service worker has it on the device).
const MapPage = lazy(() => import("@/features/map"));
const inventory = () => import("@/features/inventory");
const species = () => import("@/features/species");
const InventoryPage = lazy(async () => ({ default: (await inventory()).InventoryPage }));
const HistoryPage = lazy(async () => ({ default: (await inventory()).HistoryPage }));
const SpeciesPage = lazy(async () => ({ default: (await species()).SpeciesPage }));
const SideBySidePage = lazy(async () => ({ default: (await species()).SideBySidePage }));
const YearPage = lazy(async () => ({ default: (await species()).YearPage }));
const SurveyPage = lazy(async () => ({ default: (await import("@/features/survey")).SurveyPage }));
const ExchangePage = lazy(async () => ({ default: (await import("@/features/exchange")).ExchangePage }));
const people = () => import("@/features/people");
const joining = () => import("@/features/joining");
const PeoplePage = lazy(async () => ({ default: (await people()).PeoplePage }));
const ContactsPage = lazy(async () => ({ default: (await people()).ContactsPage }));
const AuditPage = lazy(async () => ({ default: (await people()).AuditPage }));
const AccountPage = lazy(async () => ({ default: (await people()).AccountPage }));
const JoinPage = lazy(async () => ({ default: (await joining()).JoinPage }));
const FirstRunPage = lazy(async () => ({ default: (await joining()).FirstRunPage }));
const SitePage = lazy(async () => ({ default: (await import("@/features/sites")).SitePage }));
const inspections = () => import("@/features/inspections");
const InspectionsPage = lazy(async () => ({ default: (await inspections()).InspectionsPage }));
const ReportPage = lazy(async () => ({ default: (await inspections()).ReportPage }));
const WalkPage = lazy(async () => ({ default: (await inspections()).WalkPage }));
const StormPage = lazy(async () => ({ default: (await import("@/features/storm")).StormPage }));
const health = () => import("@/features/health");
const HealthPage = lazy(async () => ({ default: (await health()).HealthPage }));
const CausePage = lazy(async () => ({ default: (await health()).CausePage }));
const WorkPage = lazy(async () => ({ default: (await import("@/features/work")).WorkPage }));
const GlossaryPage = lazy(async () => ({ default: (await import("@/features/glossary")).GlossaryPage }));

const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      networkMode: "always", // offline the kept copy answers
      retry: (failures, error) => failures < 1 && !(error instanceof Refused),
      staleTime: 30_000,
    },
  },
});

/** Addresses of the first version, kept by people in bookmarks and on paper. */
const MOVED = [
  ["/ground", "/map"],
  ["/walk", "/survey"],
  ["/bench", "/identify"],
  ["/portraits", "/species"],
  ["/ledger", "/inventory"],
  ["/stem", "/history"],
  ["/exchange", "/import-export"],
] as const;

const moved =
  (from: string, to: string) =>
  ({ request }: { request: Request }) => {
    const { pathname, search } = new URL(request.url);
    return redirect(pathname.replace(from, to) + search);
  };

/** Pages for who is not signed in. */
const open = (page: ReactNode) => (
  <Suspense fallback={<PageState error={null} what="the page" />}>{page}</Suspense>
);

const router = createBrowserRouter([
  { path: "/join", element: open(<JoinPage />), errorElement: <Broken /> },
  { path: "/first-run", element: open(<FirstRunPage />), errorElement: <Broken /> },
  {
    element: <Gate />,
    errorElement: <Broken />,
    children: [
      { path: "/", element: <TodayPage /> },
      { path: "/map/:blockId?", element: <MapPage /> },
      { path: "/survey/:plantId?", element: <SurveyPage /> },
      { path: "/identify/:plantId?", element: <IdentifyPage /> },
      { path: "/species/:taxon?", element: <SpeciesPage /> },
      { path: "/year", element: <YearPage /> },
      { path: "/side-by-side", element: <SideBySidePage /> },
      { path: "/inventory", element: <InventoryPage /> },
      { path: "/history/:plantId", element: <HistoryPage /> },
      { path: "/glossary", element: <GlossaryPage /> },
      { path: "/inspections", element: <InspectionsPage /> },
      { path: "/inspections/walk", element: <WalkPage /> },
      { path: "/inspections/reports/:reportId", element: <ReportPage /> },
      { path: "/work", element: <WorkPage /> },
      { path: "/health", element: <HealthPage /> },
      { path: "/health/causes/:agent", element: <CausePage /> },
      { path: "/storm/:plantId?", element: <StormPage /> },
      { path: "/import-export", element: <ExchangePage /> },
      { path: "/sites/:siteId", element: <SitePage /> },
      { path: "/people", element: <PeoplePage /> },
      { path: "/contacts", element: <ContactsPage /> },
      { path: "/audit", element: <AuditPage /> },
      { path: "/account", element: <AccountPage /> },
      ...MOVED.map(([from, to]) => ({ path: `${from}/*`, loader: moved(from, to) })),
      { path: "*", element: <Broken missing /> },
    ],
  },
]);

export function App() {
  return (
    <QueryClientProvider client={queryClient}>
      {/* no transitions: a field bound to the address must not lag behind the typing */}
      <RouterProvider router={router} useTransitions={false} />
    </QueryClientProvider>
  );
}
