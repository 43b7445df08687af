import { Box, Stack } from '@mui/material';
import type { ReactNode } from 'react';
import type { Part } from '@vast-swarm/core/piece';
import { useApp } from '../store/store';
import { COLOURS } from '../ui/theme';
import { Empty } from '../ui/Empty';
import { FindOne } from '../sheet/FindOne';
import { ControlTile } from './ControlTile';
import { CueList } from './CueList';
import { Outside } from './Outside';
import { Recorded } from './Recorded';
import { useActs } from '../control/useActs';

/** Controls by the groups in which they stand at the desk, in the order in which each group comes first. */
export function groupsOf(controls: readonly Part[]): [group: string, controls: Part[]][] {
  const groups = new Map<string, Part[]>();
  for (const control of controls) {
    const name = control.dials.group as string;
    groups.set(name, [...(groups.get(name) ?? []), control]);
  }
  return [...groups];
}

/** The controls and cues of the piece, tried out. */
export function ControlsTab() {
  const acts = useActs();
  const controls = useApp((s) => s.piece.piece!.controls);
  const on = controls.filter((c) => c.on);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', height: '100%', columnGap: 2 }}>
      <Column title="Controls" aside={<Recorded />}>
        {on.length === 0 && (
          <Empty action={<FindOne what="Find a dial to put forward" />} sx={{ pt: 0.5 }}>
            A dial that is put forward stands here, under a name. The sign beside a dial does it.
          </Empty>
        )}
        {groupsOf(on).map(([group, members]) => (
          <Box key={group} sx={{ mb: 1 }}>
            {group && <Box sx={{ color: COLOURS.faint, fontSize: 12, mb: '2px' }}>{group}</Box>}
            <Box
              sx={{
                display: 'grid',
                gap: 0.5,
                gridTemplateColumns: 'repeat(auto-fill, minmax(200px, 1fr))',
              }}
            >
              {members.map((control) => (
                <ControlTile key={control.id} {...{ control, acts }} />
              ))}
            </Box>
          </Box>
        ))}
      </Column>
      <Column title="Cues" aside={<Outside />}>
        <CueList acts={acts} />
      </Column>
    </Box>
  );
}

interface ColumnProps {
  title: string;
  aside?: ReactNode;
  children: ReactNode;
}

function Column({ title, aside, children }: ColumnProps) {
  return (
    <Box role="group" aria-label={title} sx={{ overflowY: 'auto', px: 2, py: 0.75, minWidth: 0 }}>
      <Stack direction="row" sx={{ alignItems: 'center', minHeight: 24, mb: 0.25 }}>
        <Box sx={{ flex: 1, fontSize: 12.5, fontWeight: 600 }}>{title}</Box>
        {aside}
      </Stack>
      {children}
    </Box>
  );
}
