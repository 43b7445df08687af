import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { COLOURS, MONO } from '../ui/theme';
import { SHORTCUTS } from '../workshop/useShortcuts';
import type { KeyGroups } from '../ui/keyGroups';

/** How dials are turned. */
export function DialsHelp() {
  return (
    <p>
      Type a number, a sum (<Code>2*(1+0.5)</Code>) or a number with a unit (<Code>48f</Code>{' '}
      frames, <Code>90deg</Code>, <Code>3cm</Code>). Drag sideways, or step with the arrow keys;
      Shift takes ten steps, Alt a tenth. Double-click resets. Points of shapes and gradients are
      dragged, added with a double-click and removed with Delete.
    </p>
  );
}

/** Keys of the workshop, or of a show, with what they do, by what one wants. */
export function KeysHelp({ groups = SHORTCUTS }: { groups?: KeyGroups }) {
  return groups.map(({ want, keys }) => (
    <Box key={want} component="section" aria-label={want} sx={{ mb: 1.25 }}>
      <Box component="h3" sx={{ m: 0, mb: 0.25, fontSize: 13, fontWeight: 600 }}>
        {want}
      </Box>
      <Box
        component="dl"
        sx={{
          display: 'grid',
          gridTemplateColumns: '172px 1fr',
          columnGap: 1,
          rowGap: 0.5,
          m: 0,
          '& dd': { m: 0 },
        }}
      >
        {keys.map(([key, what]) => (
          <Box key={key} sx={{ display: 'contents' }}>
            <dt>
              <Code>{key}</Code>
            </dt>
            <dd>{what}</dd>
          </Box>
        ))}
      </Box>
    </Box>
  ));
}

export function Code({ children }: { children: ReactNode }) {
  return (
    <Box component="code" sx={{ fontFamily: MONO, fontSize: '0.92em', color: COLOURS.glass }}>
      {children}
    </Box>
  );
}
