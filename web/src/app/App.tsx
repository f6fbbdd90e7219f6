import { QueryCache, QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, lazy, type ReactNode, Suspense, useState } from "react";
import { BrowserRouter, Route, Routes, useLocation } from "react-router";
import { client, NoAnswer, Refused, take } from "../api/client.ts";
import { meQuery } from "../api/queries.ts";
import { leave } from "../api/session.ts";
import type { Me, Units } from "../api/types.ts";
import { waiting } from "../device/device.ts";
import { officeMs } from "../device/time.ts";
import { Waits } from "../features/day/Waits.tsx";
import { TodayPage } from "../features/today/TodayPage.tsx";
import { type Clock, readBy } from "../format/clock.ts";
import { Shell } from "../parts/Shell.tsx";
import { Waiting } from "../parts/Waiting.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { Busy } from "./Busy.tsx";
import { ErrorBoundary } from "./ErrorBoundary.tsx";
import { Palette } from "./Palette.tsx";
import { SetPassword } from "./SetPassword.tsx";
import { Shortcuts } from "./Shortcuts.tsx";
import { SignIn } from "./SignIn.tsx";
import { SessionContext } from "./session.ts";

const KeepReady = lazy(() => import("../features/along/KeepReady.tsx"));
const ProfilePage = lazy(() => import("../features/profile/ProfilePage.tsx"));
const JobPage = lazy(() => import("../features/job/JobPage.tsx"));
const OpenPage = lazy(() => import("../features/jobs/OpenPage.tsx"));
const StraightToQuick = lazy(() =>
  import("../features/today/Straight.tsx").then((m) => ({ default: m.StraightToQuick })),
);
const StraightOn = lazy(() => import("../features/today/Straight.tsx").then((m) => ({ default: m.StraightOn })));
const JobsPage = lazy(() => import("../features/jobs/JobsPage.tsx"));
const CustomersPage = lazy(() => import("../features/cards/CustomersPage.tsx"));
const CylindersPage = lazy(() => import("../features/cylinders/CylindersPage.tsx"));
const InstrumentsPage = lazy(() => import("../features/instruments/InstrumentsPage.tsx"));
const LogPage = lazy(() => import("../features/log/LogPage.tsx"));
const SystemsPage = lazy(() => import("../features/systems/SystemsPage.tsx"));
const RetrofitPage = lazy(() => import("../features/retrofit/RetrofitPage.tsx"));
const PrintRefrigerant = lazy(() => import("../features/refrigerants/PrintPage.tsx"));
const PrintComparison = lazy(() => import("../features/retrofit/PrintPage.tsx"));
const AccountPage = lazy(() => import("../features/account/AccountPage.tsx"));
const TrailPage = lazy(() => import("../features/shop/TrailPage.tsx"));
const ShopPage = lazy(() => import("../features/shop/ShopPage.tsx"));
const PracticePage = lazy(() => import("../features/practice/PracticePage.tsx"));
const RunPage = lazy(() => import("../features/practice/RunPage.tsx"));
const LookBackPage = lazy(() => import("../features/practice/LookBackPage.tsx"));
const OwnPage = lazy(() => import("../features/practice/OwnPage.tsx"));
const WhatIfPage = lazy(() => import("../features/practice/WhatIfPage.tsx"));
const RefrigerantsPage = lazy(() => import("../features/refrigerants/RefrigerantsPage.tsx"));

const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, query) => {
      const signedOut = error instanceof Refused && error.status === 401;
      if (signedOut && query.queryKey[0] !== "me") void queries.invalidateQueries({ queryKey: ["me"] });
    },
  }),
  defaultOptions: {
    queries: {
      networkMode: "always",
      retry: (count, error) => !(error instanceof Refused) && !(error instanceof NoAnswer) && count < 2,
      refetchOnWindowFocus: true,
    },
  },
});

export function App() {
  return (
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <ErrorBoundary>
          <Busy />
          <Gate>
            <Shortcuts />
            <Palette />
            <Waits />
            <Suspense fallback={null}>
              <KeepReady />
            </Suspense>
            <Suspense fallback={<Waiting rows={4} />}>
              <Routes>
                <Route path="/" element={<TodayPage />} />
                <Route path="/quick" element={<StraightToQuick />} />
                <Route path="/on" element={<StraightOn />} />
                <Route path="/open" element={<OpenPage />} />
                <Route path="/jobs" element={<JobsPage />} />
                <Route path="/customers/:id?" element={<CustomersPage />} />
                <Route path="/job/:code/log" element={<LogPage />} />
                <Route path="/job/:code/what-if" element={<WhatIfPage />} />
                <Route path="/job/:code/:step?" element={<JobPage />} />
                <Route path="/practice" element={<PracticePage />} />
                <Route path="/practice/own/:id?" element={<OwnPage />} />
                <Route path="/practice/:run/back" element={<LookBackPage />} />
                <Route path="/practice/:run/:step?" element={<RunPage />} />
                <Route path="/refrigerants/:name/print" element={<PrintRefrigerant />} />
                <Route path="/refrigerants/:name?" element={<RefrigerantsPage />} />
                <Route path="/cylinders/:code?" element={<CylindersPage />} />
                <Route path="/systems/:id/retrofit/print" element={<PrintComparison />} />
                <Route path="/systems/:id/retrofit" element={<RetrofitPage />} />
                <Route path="/systems/:id?" element={<SystemsPage />} />
                <Route path="/instruments" element={<InstrumentsPage />} />
                <Route path="/shop" element={<ShopPage />} />
                <Route path="/shop/trail" element={<TrailPage />} />
                <Route path="/account" element={<AccountPage />} />
                <Route path="/profile" element={<ProfilePage />} />
                <Route path="*" element={<TodayPage />} />
              </Routes>
            </Suspense>
          </Gate>
        </ErrorBoundary>
      </BrowserRouter>
    </QueryClientProvider>
  );
}

/** The one page that needs no session is where a link leads that sets a password. */
function Gate({ children }: { children: ReactNode }) {
  return useLocation().pathname === "/password" ? <SetPassword /> : <SessionGate>{children}</SessionGate>;
}

function SessionGate({ children }: { children: ReactNode }) {
  const cache = useQueryClient();
  const { data, error, isPending, refetch } = useQuery(meQuery);
  const [gone, setGone] = useState(false);
  const [leaving, setLeaving] = useState<number | null>(null);
  const remember = (me: Me) => cache.setQueryData(meQuery.queryKey, { data: me, at: officeMs(), fromDevice: false });
  const signedOut = error instanceof Refused && error.status === 401;
  if (isPending) return <Shell label="Opening Yoshi" />;
  if (signedOut) {
    const done = () => {
      cache.clear();
      void refetch();
    };
    return (
      <SignIn
        onDone={done}
        note={
          data
            ? "You were signed out. What you typed is kept on this device and is sent as soon as you are back."
            : undefined
        }
      />
    );
  }
  if (gone) return <p className="p-8 text-soft">Signing out …</p>;
  if (!data) {
    return (
      <main className="p-8">
        <h1>No answer from the server</h1>
        <p className="mb-4 text-soft">
          Nobody is signed in on this device, so nothing of it can be shown. Sign in when there is signal.
        </p>
        <button type="button" className="btn" onClick={() => void refetch()}>
          Try now
        </button>
      </main>
    );
  }
  const me = data.data;
  const prefer = (body: { units: Units } | { clock: Clock }) => {
    remember({ ...me, ...body });
    take(client.PATCH("/api/me", { body })).catch((problem) => {
      if (!(problem instanceof NoAnswer)) throw problem;
    });
  };
  readBy(me.clock);
  const go = async (clear: boolean) => {
    setGone(true);
    await leave({ clear });
    cache.clear();
    window.location.assign("/");
  };
  const signOut = async () => {
    const some = await waiting();
    if (some) setLeaving(some);
    else await go(false);
  };
  return (
    <SessionContext
      value={{
        me,
        system: me.units,
        setSystem: (units) => prefer({ units }),
        setClock: (clock) => prefer({ clock }),
        signOut: () => void signOut(),
      }}
    >
      <Fragment key={me.clock}>{children}</Fragment>
      <Dialog open={leaving !== null} onOpenChange={(open) => !open && setLeaving(null)} title="Sign out">
        <p>
          {leaving === 1 ? "One entry of yours waits" : `${leaving} entries of yours wait`} on this device to be sent.
          Nobody can read {leaving === 1 ? "it" : "them"} once you are signed out.
        </p>
        <div className="mt-4 grid gap-2">
          <button type="button" className="btn go" onClick={() => void go(false)}>
            Keep them until I sign in here again
          </button>
          <button type="button" className="btn" onClick={() => void go(true)}>
            Clear them for good
          </button>
        </div>
      </Dialog>
    </SessionContext>
  );
}
