import { lazy, Suspense, useEffect, useState } from 'react';
import { TYPING } from '../ui/typing';

const HelpPanel = lazy(() => import('./HelpPanel'));

/** Keys and dials, opened and closed with ? beside the work, which goes on. */
export function HelpBeside() {
  /** Null until it is opened first. */
  const [open, setOpen] = useState<boolean | null>(null);
  useEffect(() => {
    const keys = (event: KeyboardEvent): void => {
      if ((event.target as HTMLElement).matches(TYPING)) return;
      if (event.key === '?') setOpen((was) => !was);
      if (event.key === 'Escape') setOpen((was) => was && false);
    };
    window.addEventListener('keydown', keys);
    return () => {
      window.removeEventListener('keydown', keys);
    };
  }, []);
  if (open === null) return null;
  return (
    <Suspense fallback={null}>
      <HelpPanel
        open={open}
        onClose={() => {
          setOpen(false);
        }}
      />
    </Suspense>
  );
}
