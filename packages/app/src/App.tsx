import { lazy, Suspense, useEffect } from 'react';
import { Route, Routes, useNavigate } from 'react-router';
import { Home } from './home/Home';
import { Notices } from './ui/Notices';
import { Workshop } from './workshop/Workshop';

const CompareView = lazy(() => import('./compare/CompareView'));
const RenderView = lazy(() => import('./render/RenderView'));
const StockView = lazy(() => import('./stock/StockView'));
const Guide = lazy(() => import('./guide/Guide'));

/** Every view has an address. */
export function App() {
  const navigate = useNavigate();
  useEffect(() => {
    const keys = (event: KeyboardEvent): void => {
      const typing = (event.target as HTMLElement).matches('input, textarea');
      if (event.key === '?' && !typing) void navigate('/guide');
    };
    window.addEventListener('keydown', keys);
    return () => {
      window.removeEventListener('keydown', keys);
    };
  }, [navigate]);
  return (
    <Suspense fallback={null}>
      <Routes>
        <Route path="/" element={<Home />} />
        <Route path="/piece/:id" element={<Workshop />} />
        <Route path="/piece/:id/render" element={<RenderView />} />
        <Route path="/piece/:id/compare" element={<CompareView />} />
        <Route path="/stock" element={<StockView />} />
        <Route path="/guide" element={<Guide />} />
        <Route path="*" element={<Home />} />
      </Routes>
      <Notices />
    </Suspense>
  );
}
