import { Box, Tab, Tabs } from '@mui/material';
import { lazy, Suspense, useState } from 'react';
import { COLOURS } from '../../theme';
import { ControlsTab } from '../controls/ControlsTab';
import { Doctor } from '../doctor/Doctor';
import { Influence } from './Influence';
import { Timing } from './Timing';

/** Charts are a large package; it comes when somebody looks at them. */
const Meters = lazy(() => import('./Meters'));

const TABS = ['Timing', 'Influence', 'Controls', 'Meters', 'Doctor'] as const;

export function BottomTabs() {
  const [tab, setTab] = useState<(typeof TABS)[number]>('Timing');
  return (
    <Box
      component="section"
      aria-label={tab}
      sx={{
        height: 190,
        flexShrink: 0,
        display: 'flex',
        flexDirection: 'column',
        borderTop: `1px solid ${COLOURS.line}`,
      }}
    >
      <Tabs
        value={tab}
        onChange={(_, next: (typeof TABS)[number]) => {
          setTab(next);
        }}
        aria-label="Below the picture"
        sx={{ borderBottom: `1px solid ${COLOURS.line}`, flexShrink: 0 }}
      >
        {TABS.map((t) => (
          <Tab key={t} value={t} label={t} />
        ))}
      </Tabs>
      <Box sx={{ flex: 1, minHeight: 0 }}>
        {tab === 'Timing' && <Timing />}
        {tab === 'Influence' && <Influence />}
        {tab === 'Controls' && <ControlsTab />}
        {tab === 'Doctor' && <Doctor />}
        {tab === 'Meters' && (
          <Suspense fallback={null}>
            <Meters />
          </Suspense>
        )}
      </Box>
    </Box>
  );
}
