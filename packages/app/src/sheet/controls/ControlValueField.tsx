import { Checkbox } from '@mui/material';
import { controlKind, type Part, type Piece } from '@vast-swarm/core/piece';
import { optionsOf, picturesOf } from '@vast-swarm/core/formats';
import type { ControlValue, Stop } from '@vast-swarm/core/feeds';
import { ColourField } from '../ColourField';
import { GradientEditor } from '../GradientEditor';
import { NamedSelect } from '../../fields/NamedSelect';
import { NumberField } from '../../fields/NumberField';

interface Props {
  /** The control's piece. */
  piece: Piece;
  control: Part;
  value: ControlValue;
  label: string;
  onChange: (value: ControlValue) => void;
  onSettle: () => void;
}

/** The value of a control, as its kind is edited. */
export function ControlValueField({ piece, control, value, label, onChange, onSettle }: Props) {
  const once = (next: ControlValue): void => {
    onChange(next);
    onSettle();
  };
  const kind = controlKind(control);
  switch (kind.holds) {
    case 'number': {
      const [min, max] = kind.range!(control.dials);
      const spec = { min, max, unit: control.dials.unit as string };
      const { rate } = piece.frame;
      return <NumberField {...{ label, spec, rate, onChange, onSettle }} value={value as number} />;
    }
    case 'switch':
      return (
        <Checkbox
          size="small"
          sx={{ p: 0 }}
          checked={value === true}
          slotProps={{ input: { 'aria-label': label } }}
          onChange={(_, on) => {
            once(on);
          }}
        />
      );
    case 'colour':
      return <ColourField {...{ label, onChange, onSettle }} value={value as string} />;
    case 'gradient':
      return (
        <GradientEditor
          {...{ label, onChange, onSettle }}
          stops={value as Stop[]}
          rate={piece.frame.rate}
        />
      );
    case 'picture':
    case 'option':
      return (
        <NamedSelect
          title={label}
          none="None"
          value={value as string}
          options={kind.holds === 'picture' ? picturesOf(piece) : optionsOf(piece, control)}
          onChange={once}
        />
      );
  }
}
