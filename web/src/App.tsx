import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { ask } from "./api/ask";
import { type Membership, sayError } from "./api/client";
import { BenchPage } from "./features/bench/BenchPage";
import { SignInPage } from "./features/session/SignInPage";
import { Boundary } from "./ui/Boundary";
import { Shell } from "./ui/Shell";
import { ErrorNote, Waiting } from "./ui/States";

// The bench is what people come for; the rest is fetched when it is asked for.
const CrewPage = lazy(() => import("./features/crew/CrewPage"));
const GearPage = lazy(() => import("./features/gear/GearPage"));
const PiecePage = lazy(() => import("./features/gear/PiecePage"));
const TablePage = lazy(() => import("./features/gear/TablePage"));
const PlacePage = lazy(() => import("./features/gear/PlacePage"));
const AtPage = lazy(() => import("./features/gear/PlacePage").then((m) => ({ default: m.AtPage })));
const ShedPage = lazy(() => import("./features/shed/ShedPage"));
const KitsPage = lazy(() => import("./features/kit/KitsPage"));
const TripsPage = lazy(() => import("./features/trip/TripsPage"));
const DuePage = lazy(() => import("./features/due/DuePage"));
const WeighPage = lazy(() => import("./features/weigh/WeighPage"));
const LabelsPage = lazy(() => import("./features/labels/LabelsPage"));
const SetupPage = lazy(() => import("./features/boat/SetupPage"));
const PlanPage = lazy(() => import("./features/plan/PlanPage"));
const RodsPage = lazy(() => import("./features/rods/RodsPage"));
const TimesPage = lazy(() => import("./features/reach/TimesPage"));
const FloatPage = lazy(() => import("./features/float/FloatPage"));
const CheckPage = lazy(() => import("./features/check/CheckPage"));
const RoadPage = lazy(() => import("./features/road/RoadPage"));
const SheetPage = lazy(() => import("./features/sheet/SheetPage"));
const LinkPage = lazy(() => import("./features/session/LinkPage"));

export function App() {
  return (
    <Suspense fallback={<Waiting text="Fetching the page…" />}>
      <Routes>
        <Route path="/link" element={<LinkPage />} />
        <Route path="*" element={<Inside />} />
      </Routes>
    </Suspense>
  );
}

function Inside() {
  const session = useQuery(ask.session());
  const me = session.data?.crews[0];
  useTheme(me?.theme);
  if (session.isPending) return <Waiting text="Opening the boathouse…" />;
  if (session.isError) return <ErrorNote text={sayError(session.error)} onRetry={() => session.refetch()} />;
  if (!session.data.signed_in) return <SignInPage demo={session.data.demo} />;
  if (!me) return <ErrorNote text="You are in no crew any more. Ask an owner to invite you." />;
  return <Pages me={me} />;
}

function Pages({ me }: { me: Membership }) {
  const first = me.boats[0];
  const { pathname } = useLocation();
  return (
    <Shell me={me}>
      <Boundary key={pathname}>
        <Suspense fallback={<Waiting text="Fetching the page…" />}>
          <Routes>
            <Route path="/boats/new" element={<SetupPage me={me} />} />
            <Route path="/boats/:boat" element={<BenchPage me={me} />} />
            <Route path="/boats/:boat/plan" element={<PlanPage me={me} />} />
            <Route path="/boats/:boat/rods" element={<RodsPage me={me} />} />
            <Route path="/boats/:boat/float" element={<FloatPage me={me} />} />
            <Route path="/boats/:boat/check" element={<CheckPage me={me} />} />
            <Route path="/boats/:boat/road" element={<RoadPage me={me} />} />
            <Route path="/boats/:boat/sheet" element={<SheetPage me={me} />} />
            <Route path="/boats/:boat/setup" element={<SetupPage me={me} />} />
            <Route path="/gear" element={<GearPage me={me} />} />
            <Route path="/gear/table" element={<TablePage me={me} />} />
            <Route path="/gear/:gear" element={<PiecePage me={me} />} />
            <Route path="/places/:boat/:place" element={<PlacePage me={me} />} />
            <Route path="/shed" element={<ShedPage me={me} />} />
            <Route path="/shed/:shed" element={<PlacePage me={me} />} />
            <Route path="/at/:code" element={<AtPage me={me} />} />
            <Route path="/kits" element={<KitsPage me={me} />} />
            <Route path="/kits/:kit" element={<KitsPage me={me} />} />
            <Route path="/trips" element={<TripsPage me={me} />} />
            <Route path="/due" element={<DuePage me={me} />} />
            <Route path="/weigh" element={<WeighPage me={me} />} />
            <Route path="/labels" element={<LabelsPage me={me} />} />
            <Route path="/crew/times" element={<TimesPage me={me} />} />
            <Route path="/crew" element={<CrewPage me={me} />} />
            <Route path="*" element={<Navigate replace to={first ? `/boats/${first.id}` : "/boats/new"} />} />
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
