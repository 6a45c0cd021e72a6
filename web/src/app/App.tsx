import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy } from "react";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Refused } from "@/api/client";
import { BenchPage } from "@/features/bench";
import { ExchangePage } from "@/features/exchange";
import { LedgerPage, StemPage } from "@/features/ledger";
import { PortraitsPage, SideBySidePage, YearPage } from "@/features/portraits";
import { TodayPage } from "@/features/today";
import { WalkPage } from "@/features/walk";
import { Broken } from "./Broken";
import { Gate } from "./Gate";

const GroundPage = lazy(() => import("@/features/ground"));

const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      networkMode: "always", // out of signal the kept copy answers
      retry: (failures, error) => failures < 1 && !(error instanceof Refused),
      staleTime: 30_000,
    },
  },
});

const router = createBrowserRouter([
  {
    element: <Gate />,
    errorElement: <Broken />,
    children: [
      { path: "/", element: <TodayPage /> },
      { path: "/ground/:blockId?", element: <GroundPage /> },
      { path: "/walk/:plantId?", element: <WalkPage /> },
      { path: "/bench/:plantId?", element: <BenchPage /> },
      { path: "/portraits/:taxon?", element: <PortraitsPage /> },
      { path: "/year", element: <YearPage /> },
      { path: "/side-by-side", element: <SideBySidePage /> },
      { path: "/ledger", element: <LedgerPage /> },
      { path: "/stem/:plantId", element: <StemPage /> },
      { path: "/exchange", element: <ExchangePage /> },
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
