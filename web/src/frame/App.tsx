import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { BrowserRouter, Route, Routes } from 'react-router';
import { ServerProblem } from '../api/client.ts';
import type { Floor } from '../api/queries.ts';
import { lookUpSeenBy } from '../outbox/filing-of.ts';
import { keepFloor } from '../outbox/floor.ts';
import { BoardPage } from '../board/BoardPage.tsx';
import { keepPerson, keepTheme, keptPerson, keptTheme, PersonContext } from '../shared/person.ts';
import { EmptyState } from '../parts/index.ts';
import { Shell } from './Shell.tsx';
import { houseTheme } from './theme.ts';
import { TOKENS } from './tokens.ts';

const BatchPage = lazy(() => import('../batch/BatchPage.tsx'));
const PassportPage = lazy(() => import('../passport/PassportPage.tsx'));
const OwnerPage = lazy(() => import('../passport/OwnerPage.tsx'));
const RacksPage = lazy(() => import('../racks/RacksPage.tsx'));
const FlowPage = lazy(() => import('../flow/FlowPage.tsx'));
const ConstraintPage = lazy(() => import('../flow/ConstraintPage.tsx'));
const LeadTimesPage = lazy(() => import('../flow/LeadTimesPage.tsx'));
const WorkPage = lazy(() => import('../flow/WorkPage.tsx'));
const LeadTimePage = lazy(() => import('../flow/LeadTimePage.tsx'));
const SkillsPage = lazy(() => import('../people/SkillsPage.tsx'));
const RosterPage = lazy(() => import('../people/RosterPage.tsx'));
const ReportsPage = lazy(() => import('../flow/ReportsPage.tsx'));
const HoursPage = lazy(() => import('../hours/HoursPage.tsx'));
const LogWholePage = lazy(() => import('../flow/LogWholePage.tsx'));
const StagePage = lazy(() => import('../stage/StagePage.tsx'));
const OpenPage = lazy(() => import('../open/OpenPage.tsx'));
const WoodRoomPage = lazy(() => import('../wood/WoodRoomPage.tsx'));
const LotPage = lazy(() => import('../wood/LotPage.tsx'));
const RackDryingPage = lazy(() => import('../wood/RackDryingPage.tsx'));
const ReadingPage = lazy(() => import('../wood/ReadingPage.tsx'));
const RoomsPage = lazy(() => import('../wood/RoomsPage.tsx'));
const MetersPage = lazy(() => import('../wood/MetersPage.tsx'));
const ReceivePage = lazy(() => import('../wood/ReceivePage.tsx'));
const YieldPage = lazy(() => import('../wood/YieldPage.tsx'));
const StockPage = lazy(() => import('../wood/StockPage.tsx'));
const ChoosePage = lazy(() => import('../wood/ChoosePage.tsx'));
const FirstMill = lazy(() =>
  import('../machining/MillPage.tsx').then((page) => ({ default: page.FirstMill })),
);
const MillPage = lazy(() => import('../machining/MillPage.tsx'));
const ChecksPage = lazy(() => import('../machining/ChecksPage.tsx'));
const ChartPage = lazy(() => import('../machining/ChartPage.tsx'));
const ProgramsPage = lazy(() => import('../machining/ProgramsPage.tsx'));
const PressesPage = lazy(() => import('../fitting/PressesPage.tsx'));
const MeetingPage = lazy(() => import('../fitting/MeetingPage.tsx'));
const PairingPage = lazy(() => import('../fitting/PairingPage.tsx'));
const ReadyListPage = lazy(() => import('../finishing/ReadyListPage.tsx'));
const RackPage = lazy(() => import('../finishing/RackPage.tsx'));
const BoothsPage = lazy(() => import('../finishing/BoothsPage.tsx'));
const SandingPage = lazy(() => import('../finishing/SandingPage.tsx'));
const PanelsPage = lazy(() => import('../finishing/PanelsPage.tsx'));
const RecipesPage = lazy(() => import('../finishing/RecipesPage.tsx'));
const RecipePage = lazy(() => import('../finishing/RecipePage.tsx'));
const MaterialsPage = lazy(() => import('../finishing/MaterialsPage.tsx'));
const AgeingPage = lazy(() => import('../finishing/AgeingPage.tsx'));
const BenchesPage = lazy(() => import('../assembly/BenchesPage.tsx'));
const SheetPage = lazy(() => import('../assembly/SheetPage.tsx'));
const ShippingPage = lazy(() => import('../assembly/ShippingPage.tsx'));
const SerialsPage = lazy(() => import('../assembly/SerialsPage.tsx'));
const OrdersPage = lazy(() => import('../orders/OrdersPage.tsx'));
const OrderPage = lazy(() => import('../orders/OrderPage.tsx'));
const NewOrderPage = lazy(() => import('../orders/NewOrderPage.tsx'));
const RacksToOpenPage = lazy(() => import('../orders/RacksToOpenPage.tsx'));
const OptionsPage = lazy(() => import('../orders/OptionsPage.tsx'));
const KitsPage = lazy(() => import('../kits/KitsPage.tsx'));
const PickPage = lazy(() => import('../kits/PickPage.tsx'));
const StorePage = lazy(() => import('../kits/StorePage.tsx'));
const PartPage = lazy(() => import('../kits/PartPage.tsx'));
const BillsPage = lazy(() => import('../kits/BillsPage.tsx'));
const HandOffsPage = lazy(() => import('../handoffs/HandOffsPage.tsx'));
const RoutesPage = lazy(() => import('../routes/RoutesPage.tsx'));
const RoutePage = lazy(() => import('../routes/RoutePage.tsx'));
const ChangesPage = lazy(() => import('../changes/ChangesPage.tsx'));
const BackupsPage = lazy(() => import('../backup/BackupsPage.tsx'));
const KeptPage = lazy(() => import('../kept/KeptPage.tsx'));
const DevicesPage = lazy(() => import('../devices/DevicesPage.tsx'));

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 2000,
      // Whether there is a line is seen by asking: the server may be on this very machine.
      networkMode: 'always',
      retry: (failures, problem) => failures < 2 && problem instanceof ServerProblem && problem.away,
    },
  },
});

keepFloor(queries).catch(() => undefined);
lookUpSeenBy((code) => queries.getQueryData<Floor>(['floor'])?.racks.find((rack) => rack.code === code)?.seq);

export function App() {
  const [by, setBy] = useState(keptPerson);
  const [themeName, setThemeName] = useState(keptTheme);
  const theme = useMemo(() => houseTheme(themeName), [themeName]);
  const person = useMemo(
    () => ({
      by,
      choose: (code: string) => {
        keepPerson(code);
        setBy(code);
      },
    }),
    [by],
  );
  const turn = useCallback(() => setThemeName((name) => (name === 'day' ? 'night' : 'day')), []);
  useEffect(() => {
    keepTheme(themeName);
    document.documentElement.dataset.theme = themeName;
    for (const [name, colour] of Object.entries(TOKENS[themeName]))
      document.documentElement.style.setProperty(`--${name}`, colour);
  }, [themeName]);
  return (
    <QueryClientProvider client={queries}>
      <ThemeProvider theme={theme}>
        <PersonContext.Provider value={person}>
          <BrowserRouter>
            <Routes>
              <Route
                path="own/:token"
                element={
                  <Suspense fallback={null}>
                    <OwnerPage />
                  </Suspense>
                }
              />
              <Route element={<Shell onTheme={turn} />}>
                <Route index element={<BoardPage />} />
                <Route path="batch/:code" element={<BatchPage />} />
                <Route path="passport/:batch/:position" element={<PassportPage />} />
                <Route path="stage/wood" element={<WoodRoomPage />} />
                <Route path="wood/lots/:code" element={<LotPage />} />
                <Route path="wood/drying/:code" element={<RackDryingPage />} />
                <Route path="wood/read/:code" element={<ReadingPage />} />
                <Route path="wood/rooms/:room?" element={<RoomsPage />} />
                <Route path="wood/meters" element={<MetersPage />} />
                <Route path="wood/receive" element={<ReceivePage />} />
                <Route path="wood/yield" element={<YieldPage />} />
                <Route path="wood/stock" element={<StockPage />} />
                <Route path="wood/choose/:batch" element={<ChoosePage />} />
                <Route path="stage/machining" element={<FirstMill />} />
                <Route path="mill/checks" element={<ChecksPage />} />
                <Route path="mill/checks/:model/:kind/:check" element={<ChartPage />} />
                <Route path="mill/programs" element={<ProgramsPage />} />
                <Route path="mill/:station" element={<MillPage />} />
                <Route path="stage/fitting" element={<PressesPage />} />
                <Route path="fitting/meeting" element={<MeetingPage />} />
                <Route path="fitting/pairing/:host?/:guest?" element={<PairingPage />} />
                <Route path="stage/finishing" element={<ReadyListPage />} />
                <Route path="finish/rack/:code" element={<RackPage />} />
                <Route path="finish/booths/:code?" element={<BoothsPage />} />
                <Route path="finish/sanding" element={<SandingPage />} />
                <Route path="finish/panels/:code?" element={<PanelsPage />} />
                <Route path="finish/recipes" element={<RecipesPage />} />
                <Route path="finish/recipes/:name" element={<RecipePage />} />
                <Route path="finish/materials" element={<MaterialsPage />} />
                <Route path="finish/ageing" element={<AgeingPage />} />
                <Route path="stage/assembly" element={<BenchesPage />} />
                <Route path="assembly/bench/:batch/:position" element={<SheetPage />} />
                <Route path="assembly/shipping" element={<ShippingPage />} />
                <Route path="assembly/serials" element={<SerialsPage />} />
                <Route path="orders" element={<OrdersPage />} />
                <Route path="orders/new" element={<NewOrderPage />} />
                <Route path="orders/racks" element={<RacksToOpenPage />} />
                <Route path="orders/options/:model?" element={<OptionsPage />} />
                <Route path="orders/:code" element={<OrderPage />} />
                <Route path="kits" element={<KitsPage />} />
                <Route path="kits/parts" element={<StorePage />} />
                <Route path="kits/parts/:code" element={<PartPage />} />
                <Route path="kits/bills/:model?" element={<BillsPage />} />
                <Route path="kits/:batch/:position" element={<PickPage />} />
                <Route path="routes" element={<RoutesPage />} />
                <Route path="routes/:model/:kind" element={<RoutePage />} />
                <Route path="stage/:stage/racks?" element={<StagePage />} />
                <Route path="racks" element={<RacksPage />} />
                <Route path="hand-offs" element={<HandOffsPage />} />
                <Route path="flow" element={<FlowPage />} />
                <Route path="flow/time" element={<LeadTimesPage />} />
                <Route path="flow/time/:batch/:position" element={<LeadTimePage />} />
                <Route path="flow/constraint" element={<ConstraintPage />} />
                <Route path="flow/work" element={<WorkPage />} />
                <Route path="flow/hours" element={<HoursPage />} />
                <Route path="flow/roster" element={<RosterPage />} />
                <Route path="flow/people" element={<SkillsPage />} />
                <Route path="flow/log" element={<LogWholePage />} />
                <Route path="flow/reports" element={<ReportsPage />} />
                <Route path="open" element={<OpenPage />} />
                <Route path="kept" element={<KeptPage />} />
                <Route path="backups" element={<BackupsPage />} />
                <Route path="changes" element={<ChangesPage />} />
                <Route path="devices" element={<DevicesPage />} />
                <Route
                  path="*"
                  element={<EmptyState>There is no such page. Press 0 for the board.</EmptyState>}
                />
              </Route>
            </Routes>
          </BrowserRouter>
        </PersonContext.Provider>
      </ThemeProvider>
    </QueryClientProvider>
  );
}
