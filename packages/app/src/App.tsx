import { lazy, Suspense, useEffect } from 'react';
import { Route, Routes } from 'react-router';
import { takeDrops } from './shell/drops';
import { HelpBeside } from './guide/HelpBeside';
import { Home } from './home/Home';
import { DialStyles } from './ui/DialStyles';
import { Notices } from './shell/Notices';

const Workshop = lazy(() => import('./workshop/Workshop'));
const CompareView = lazy(() => import('./compare/CompareView'));
const RenderView = lazy(() => import('./renders/RenderView'));
const RendersView = lazy(() => import('./renders/RendersView'));
const StockView = lazy(() => import('./stock/StockView'));
const DeskView = lazy(() => import('./desk/DeskView'));
const OutputView = lazy(() => import('./show/OutputView'));
const WallView = lazy(() => import('./wall/WallView'));
const Guide = lazy(() => import('./guide/Guide'));

/** Every view has an address. */
export function App() {
  useEffect(takeDrops, []);
  useEffect(() => {
    // Nothing is rendered beside a show that runs.
    if (/^\/(show|wall)/.test(location.pathname)) return;
    void import('./renders/browserQueue').then(({ browserQueue }) => {
      browserQueue.open();
    });
  }, []);
  return (
    <Suspense fallback={null}>
      <DialStyles />
      <Routes>
        <Route path="/" element={<Home />} />
        <Route path="/piece/:id" element={<Workshop />} />
        <Route path="/piece/:id/render" element={<RenderView />} />
        <Route path="/piece/:id/compare" element={<CompareView />} />
        <Route path="/show/:id" element={<DeskView />} />
        <Route path="/show/:id/output" element={<OutputView />} />
        <Route path="/wall" element={<WallView />} />
        <Route path="/renders" element={<RendersView />} />
        <Route path="/stock" element={<StockView />} />
        <Route path="/guide" element={<Guide />} />
        <Route path="*" element={<Home />} />
      </Routes>
      <HelpBeside />
      <Notices />
    </Suspense>
  );
}
