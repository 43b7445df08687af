import { Box, Button, Stack } from '@mui/material';
import { X } from 'lucide-react';
import { useOutside, useOutsideTold } from '../../control/OutsideContext';
import { COLOURS, MONO } from '../../ui/theme';
import { IconAction } from '../../ui/IconAction';

interface Props {
  value: string;
  path: (string | number)[];
  onChange: (value: string) => void;
}

/** The fader or button outside that moves it: learnt by moving that. */
export function LearntCell({ value, path, onChange }: Props) {
  const outside = useOutside();
  const place = path.join('.');
  const learning = useOutsideTold((o) => o.learning === place);
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1 }}>
      <Button
        variant="outlined"
        aria-pressed={learning}
        onClick={() => {
          if (learning) outside.learn(null);
          else outside.learn(place, onChange);
        }}
        sx={{ py: 0, fontSize: 12 }}
      >
        {learning ? 'Move it now' : 'Learn'}
      </Button>
      <Box sx={{ fontFamily: MONO, fontSize: 12, color: value ? COLOURS.text : COLOURS.faint }}>
        {value || 'nothing'}
      </Box>
      {value && (
        <IconAction
          label="Forget what it has learnt"
          onClick={() => {
            onChange('');
          }}
        >
          <X size={13} />
        </IconAction>
      )}
    </Stack>
  );
}
