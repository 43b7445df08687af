import { Box, Button, Stack, Tab, Tabs } from '@mui/material';
import { Shuffle } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { COLOURS } from '../ui/theme';
import { ControlsTab } from '../controls/ControlsTab';
import { Doctor } from '../doctor/Doctor';
import { Influence } from '../strip/Influence';
import { Variations } from '../variations/Variations';
import { Timing } from '../strip/Timing';

/** Charts are a large package; it comes when somebody looks at them. */
const Meters = lazy(() => import('../strip/Meters'));

const TABS = ['Timing', 'Influence', 'Controls', 'Meters', 'Doctor'] as const;

/** Panels below the picture. */
export function BottomTabs() {
  const varying = useApp((s) => s.tools.varying);
  return varying ? <Variations varying={varying} /> : <TabsBelow />;
}

function TabsBelow() {
  const dispatch = useAppDispatch();
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
      <Stack direction="row" sx={{ borderBottom: `1px solid ${COLOURS.line}`, flexShrink: 0 }}>
        <Tabs
          value={tab}
          onChange={(_, next: (typeof TABS)[number]) => {
            setTab(next);
          }}
          aria-label="Below the picture"
          sx={{ flex: 1 }}
        >
          {TABS.map((t) => (
            <Tab
              key={t}
              id={`tab-${t}`}
              value={t}
              label={t}
              {...(t === tab && { 'aria-controls': 'tab-panel' })}
            />
          ))}
        </Tabs>
        <Button
          startIcon={<Shuffle size={14} />}
          title="Nine neighbours of the piece, made by turning dials at random"
          onClick={() => dispatch(toolActions.varied(true))}
          sx={{ mr: 1 }}
        >
          Variations
        </Button>
      </Stack>
      <Box
        role="tabpanel"
        id="tab-panel"
        aria-labelledby={`tab-${tab}`}
        sx={{ flex: 1, minHeight: 0 }}
      >
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
