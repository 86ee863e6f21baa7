import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { type ComponentType, createElement, lazy, Suspense } from "react";
import { BrowserRouter, Route, Routes } from "react-router";
import { makeQueries } from "@/app/contact";
import { Shell } from "./Shell";
import { Waiting } from "@/ui/Waiting";
import { CARRIED_FORM, CARRIED_MS, carrier, isCarried } from "@/offline/carried";

const [Rail, railReady] = ahead(() => import("@/features/queue/Rail"));
const TakeIn = lazy(() => import("@/features/queue/TakeIn"));
const JobPage = lazy(() => import("@/features/queue/JobPage"));
const PartsPage = lazy(() => import("@/features/wheels/PartsPage"));
const ReadingsPage = lazy(() => import("@/features/bench/ReadingsPage"));
const StatePage = lazy(() => import("@/features/bench/StatePage"));
const PlanPage = lazy(() => import("@/features/bench/PlanPage"));
const LivePage = lazy(() => import("@/features/bench/LivePage"));
const ChecksPage = lazy(() => import("@/features/condition/ChecksPage"));
const ConditionPage = lazy(() => import("@/features/condition/ConditionPage"));
const DecidePage = lazy(() => import("@/features/repair/DecidePage"));
const RefitPage = lazy(() => import("@/features/repair/RefitPage"));
const RoadAdvicePage = lazy(() => import("@/features/repair/RoadAdvicePage"));
const PricesPage = lazy(() => import("@/features/repair/PricesPage"));
const InstrumentsPage = lazy(() => import("@/features/instruments/InstrumentsPage"));
const TagPage = lazy(() => import("@/features/queue/TagPage"));
const SignOffPage = lazy(() => import("@/features/records/SignOffPage"));

const SpokesPage = lazy(() => import("@/features/building/SpokesPage"));
const StripPage = lazy(() => import("@/features/building/StripPage"));
const LacingPage = lazy(() => import("@/features/building/LacingPage"));
const LacingCard = lazy(() => import("@/features/building/LacingCard"));
const ReplacePage = lazy(() => import("@/features/building/ReplacePage"));
const SpareCardPage = lazy(() => import("@/features/building/SpareCardPage"));
const CustomersPage = lazy(() => import("@/features/customers/CustomersPage"));
const CustomerPage = lazy(() => import("@/features/customers/CustomerPage"));
const WheelHistoryPage = lazy(() => import("@/features/records/WheelHistoryPage"));
const LotsPage = lazy(() => import("@/features/fleet/LotsPage"));
const LotPage = lazy(() => import("@/features/fleet/LotPage"));
const LabelsPage = lazy(() => import("@/features/fleet/LabelsPage"));
const LadderPage = lazy(() => import("@/features/practice/LadderPage"));
const LessonPage = lazy(() => import("@/features/practice/LessonPage"));
const RunPage = lazy(() => import("@/features/practice/RunPage"));
const WordsPage = lazy(() => import("@/help/WordsPage"));
const NumbersPage = lazy(() => import("@/features/numbers/NumbersPage"));
const LettersPage = lazy(() => import("@/features/letters/LettersPage"));
const ShopPage = lazy(() => import("@/features/shop/ShopPage"));
const StockPage = lazy(() => import("@/features/stock/StockPage"));

const AccountPage = lazy(() => import("@/features/accounts/AccountPage"));
const NewPasswordPage = lazy(() => import("@/features/accounts/NewPasswordPage"));

export const queries = makeQueries();
export { railReady };

/** A screen that is loaded when it is opened, or before the first is drawn: then nothing is drawn in between. */
function ahead(load: () => Promise<{ default: ComponentType }>): [ComponentType, () => Promise<void>] {
  let there: ComponentType | undefined;
  const Later = lazy(load);
  const Screen = () => (there ? createElement(there) : <Later />);
  return [Screen, async () => void (there = (await load()).default)];
}

/** What the screens have shown is there again when the net is not. */
const CARRY = {
  persister: carrier,
  maxAge: CARRIED_MS,
  buster: CARRIED_FORM,
  dehydrateOptions: { shouldDehydrateQuery: isCarried },
};

export function App() {
  return (
    <PersistQueryClientProvider client={queries} persistOptions={CARRY}>
      <BrowserRouter>
        <Suspense fallback={<Waiting what={say`the page`} />}>
          <Routes>
            <Route path="new-password/:person/:token" element={<NewPasswordPage />} />
            <Route element={<Shell />}>
              <Route index element={<Rail />} />
              <Route path="take-in" element={<TakeIn />} />
              <Route path="jobs/:jobId" element={<JobPage />} />
              <Route path="jobs/:jobId/parts" element={<PartsPage />} />
              <Route path="jobs/:jobId/readings/:setId" element={<ReadingsPage />} />
              <Route path="jobs/:jobId/state/:setId" element={<StatePage />} />
              <Route path="jobs/:jobId/plan/:planId" element={<PlanPage />} />
              <Route path="jobs/:jobId/live/:planId" element={<LivePage />} />
              <Route path="jobs/:jobId/checks" element={<ChecksPage />} />
              <Route path="jobs/:jobId/condition" element={<ConditionPage />} />
              <Route path="jobs/:jobId/decide" element={<DecidePage />} />
              <Route path="jobs/:jobId/refit" element={<RefitPage />} />
              <Route path="jobs/:jobId/tag" element={<TagPage />} />
              <Route path="road-advice" element={<RoadAdvicePage />} />
              <Route path="instruments" element={<InstrumentsPage />} />
              <Route path="prices" element={<PricesPage />} />
              <Route path="jobs/:jobId/spokes" element={<SpokesPage />} />
              <Route path="jobs/:jobId/strip" element={<StripPage />} />
              <Route path="jobs/:jobId/lacing" element={<LacingPage />} />
              <Route path="jobs/:jobId/lacing/card" element={<LacingCard />} />
              <Route path="jobs/:jobId/replace" element={<ReplacePage />} />
              <Route path="bikes/:bikeId/spares" element={<SpareCardPage />} />
              <Route path="stock" element={<StockPage />} />
              <Route path="jobs/:jobId/sign-off" element={<SignOffPage />} />
              <Route path="wheels/:wheelId/history" element={<WheelHistoryPage />} />
              <Route path="customers" element={<CustomersPage />} />
              <Route path="customers/:id" element={<CustomerPage />} />
              <Route path="lots" element={<LotsPage />} />
              <Route path="lots/:id" element={<LotPage />} />
              <Route path="lots/:id/labels" element={<LabelsPage />} />
              <Route path="practice" element={<LadderPage />} />
              <Route path="practice/lessons/:key" element={<LessonPage />} />
              <Route path="practice/:id" element={<RunPage />} />
              <Route path="words" element={<WordsPage />} />
              <Route path="numbers" element={<NumbersPage />} />
              <Route path="letters" element={<LettersPage />} />
              <Route path="account" element={<AccountPage />} />
              <Route path="shop" element={<ShopPage />} />
              <Route path="*" element={<Nowhere />} />
            </Route>
          </Routes>
        </Suspense>
      </BrowserRouter>
    </PersistQueryClientProvider>
  );
}

function Nowhere() {
  return (
    <main className="p-8">
      <h1>
        <Trans>There is no page here</Trans>
      </h1>
      <p className="mt-2 text-muted">
        <Trans>The address is wrong, or the job belongs to another shop.</Trans>
      </p>
    </main>
  );
}
