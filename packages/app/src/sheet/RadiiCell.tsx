import { Box, IconButton, Stack } from '@mui/material';
import { Trash2 } from 'lucide-react';
import { BONE_RADIUS, type BoneRadii } from '@vast-swarm/core/feeds';
import { usePiece } from '../store/store';
import { usePerforming } from '../answers/usePerforming';
import { NamedSelect } from '../fields/NamedSelect';
import { NumberField } from '../fields/NumberField';

interface Props {
  value: BoneRadii;
  /** Of the dial, in a performer of the piece. */
  path: (string | number)[];
  onChange: (value: BoneRadii) => void;
  onSettle: () => void;
}

const METRES = { ...BONE_RADIUS, unit: 'm', drag: 'log' } as const;

/** Bones with how thick each is; the empty row at the end takes another, as thick as it is now. */
export function RadiiCell({ value, path, onChange, onSettle }: Props) {
  const piece = usePiece();
  const part = piece.performers[Number(path[1])];
  const performing = usePerforming(part);
  const bones = performing?.bones ?? [];
  const named = new Set(value.map((b) => b.joint));
  const options = bones
    .map((b) => performing!.joints[b.to]!)
    .filter((joint) => !named.has(joint))
    .map((joint) => ({ id: joint, name: joint }));
  const add = (joint: string): void => {
    const bone = bones.find((b) => performing!.joints[b.to] === joint);
    const times = part!.dials.thickness as number;
    if (!bone) return;
    const radius = Number(Math.max(BONE_RADIUS.min, bone.radius / times).toPrecision(3));
    onChange([...value, { joint, radius }]);
    onSettle();
  };
  return (
    <Box>
      {value.map(({ joint, radius }, i) => (
        <Stack key={joint} direction="row" sx={{ alignItems: 'center', fontSize: 13, gap: 1 }}>
          <Box sx={{ flex: 1 }}>{joint}</Box>
          <NumberField
            label={`Radius of ${joint}`}
            value={radius}
            spec={METRES}
            rate={1}
            onChange={(next) => {
              onChange(value.map((b, k) => (k === i ? { joint, radius: next } : b)));
            }}
            onSettle={onSettle}
          />
          <IconButton
            aria-label={`Take ${joint} out`}
            onClick={() => {
              onChange(value.filter((_, k) => k !== i));
              onSettle();
            }}
            sx={{ p: '2px' }}
          >
            <Trash2 size={13} />
          </IconButton>
        </Stack>
      ))}
      <NamedSelect title="Add a bone" none="Add a bone" value="" options={options} onChange={add} />
    </Box>
  );
}
