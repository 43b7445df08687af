import { Box, ButtonBase, Stack } from '@mui/material';
import { ChevronDown, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { store, useApp, useAppDispatch } from '../store/store';
import { keepFolded, toolActions } from '../store/toolSlice';
import { COLOURS } from '../ui/theme';

/** Dials that belong together, under a title that folds them away. */
export function Group(props: { title: string; aside?: ReactNode; children: ReactNode }) {
  const { title } = props;
  const folded = useApp((s) => s.tools.folded.includes(title));
  const dispatch = useAppDispatch();
  const Chevron = folded ? ChevronRight : ChevronDown;
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{ borderTop: `1px solid ${COLOURS.line}`, mt: 0.75, pt: 0.75 }}
    >
      <Stack
        direction="row"
        sx={{ justifyContent: 'space-between', alignItems: 'end', gap: 1, mb: 0.25 }}
      >
        <Box component="h3" sx={{ m: 0, ml: '-4px', color: COLOURS.text }}>
          <ButtonBase
            aria-expanded={!folded}
            onClick={() => {
              dispatch(toolActions.groupFolded(title));
              keepFolded(store.getState().tools.folded);
            }}
            sx={{ fontSize: 12.5, fontWeight: 600, fontFamily: 'inherit', gap: '2px', pr: '4px' }}
          >
            <Chevron size={13} color={COLOURS.faint} aria-hidden />
            {title}
          </ButtonBase>
        </Box>
        {props.aside}
      </Stack>
      {!folded && props.children}
    </Box>
  );
}
