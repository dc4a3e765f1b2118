import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { ask } from "./api/ask";
import { type Membership, sayError } from "./api/client";
import { useSending } from "./api/ticks";
import { Boundary } from "./shell/Boundary";
import { PAGES } from "./shell/features";
import { homeOf, useAhead } from "./shell/rooms";
import { Shell } from "./shell/Shell";
import { ErrorNote, Waiting } from "./ui/States";

const SignInPage = lazy(() => import("./features/session/SignInPage"));
const FoundPage = lazy(() => import("./features/session/FoundPage"));
const AboardPage = lazy(() => import("./features/brief/AboardPage"));
const GuestPage = lazy(() => import("./features/trip/GuestPage"));
const LinkPage = lazy(() => import("./features/session/LinkPage"));

export function App() {
  return (
    <Suspense fallback={<Waiting text="Loading the page…" />}>
      <Routes>
        <Route path="/link" element={<LinkPage />} />
        <Route path="/guest" element={<GuestPage />} />
        <Route path="/aboard" element={<AboardPage />} />
        <Route path="*" element={<Inside />} />
      </Routes>
    </Suspense>
  );
}

function Inside() {
  const session = useQuery(ask.session());
  const me = session.data?.crews[0];
  useTheme(me?.theme);
  if (session.isPending) return <Waiting text="Loading…" />;
  if (session.isError) return <ErrorNote text={sayError(session.error)} onRetry={() => session.refetch()} />;
  if (session.data.founding) return <FoundPage />;
  if (!session.data.signed_in) return <SignInPage demo={session.data.demo} />;
  if (!me) return <ErrorNote text="You are in no crew any more. Ask an owner to invite you." />;
  return <Pages me={me} />;
}

function Pages({ me }: { me: Membership }) {
  const { pathname } = useLocation();
  useAhead(me);
  useSending(me);
  return (
    <Shell me={me}>
      <Boundary key={pathname}>
        <Suspense fallback={<Waiting text="Loading the page…" />}>
          <Routes>
            {PAGES.map((p) => (
              <Route key={p.path} path={p.path} element={<p.page me={me} />} />
            ))}
            <Route path="*" element={<Navigate replace to={homeOf(me)} />} />
          </Routes>
        </Suspense>
      </Boundary>
    </Shell>
  );
}

function useTheme(theme: string | undefined) {
  useEffect(() => {
    document.documentElement.dataset.theme = theme ?? "paper";
  }, [theme]);
}
