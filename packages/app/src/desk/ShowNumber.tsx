import { NumberField } from '../fields/NumberField';

interface Props {
  label: string;
  value: number;
  range: [min: number, max: number];
  unit?: string;
  whole?: boolean;
  /** Frames a second, by which frames are read as seconds. */
  rate?: number;
  onChange: (value: number) => void;
}

/** A number of a show or its wall: what follows closely is one step to undo, so none has to be settled. */
export function ShowNumber({ label, value, range, unit = '', whole, rate = 30, onChange }: Props) {
  const [min, max] = range;
  return (
    <NumberField
      {...{ label, value, onChange }}
      spec={{ min, max, unit, ...(whole ? { whole } : {}) }}
      rate={rate}
      onSettle={() => undefined}
      width={76}
    />
  );
}
