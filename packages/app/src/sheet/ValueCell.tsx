import type {
  BoneRadii,
  Bursts,
  ColourFeed,
  DialValue,
  Keys,
  Mask,
  Moves,
  NumberFeed,
  Sets,
  Stop,
  Strokes,
  Take,
  VectorFeed,
} from '@vast-swarm/core/feeds';
import type { DialSpec } from '@vast-swarm/core/kinds';
import { PlainSelect } from '../ui/PlainSelect';
import { ColourCell } from './ColourCell';
import { BurstsCell } from './controls/BurstsCell';
import { LabelCell } from './controls/LabelCell';
import { LearntCell } from './controls/LearntCell';
import { MovesCell } from './controls/MovesCell';
import { OptionCell } from './controls/OptionCell';
import { SetsCell } from './controls/SetsCell';
import { ShortcutCell } from './controls/ShortcutCell';
import { FormulaField } from './FormulaField';
import { GradientEditor } from './GradientEditor';
import { JointsCell } from './JointsCell';
import { KeysTable } from './KeysTable';
import { MaskCell } from './MaskCell';
import { NumberCell } from './NumberCell';
import { PartCell } from './PartCell';
import { RadiiCell } from './RadiiCell';
import { StockCell } from './StockCell';
import { StocksCell } from './StocksCell';
import { StrokesCell } from './StrokesCell';
import { SwarmCell } from './SwarmCell';
import { TakeCell } from './TakeCell';
import { VectorCell } from './VectorCell';

interface Props {
  spec: DialSpec;
  value: DialValue;
  rate: number;
  path: (string | number)[];
  put: (value: DialValue) => void;
  settle: () => void;
}

/** The value of a dial, by the type of the dial. */
export function ValueCell({ spec, value, rate, path, put, settle }: Props) {
  const once = (next: DialValue): void => {
    put(next);
    settle();
  };
  switch (spec.type) {
    case 'choice':
      return (
        <PlainSelect
          label={spec.title}
          value={value as string}
          options={spec.options}
          onChange={once}
        />
      );
    case 'colour':
      return (
        <ColourCell
          label={spec.title}
          feed={value as ColourFeed}
          onChange={put}
          onSettle={settle}
          rate={rate}
        />
      );
    case 'stock':
      return <StockCell spec={spec} value={value as string} path={path} onChange={once} />;
    case 'stocks':
      return <StocksCell spec={spec} value={value as string[]} path={path} onChange={once} />;
    case 'swarm':
      return (
        <SwarmCell
          title={spec.title}
          none={spec.none}
          value={value as string}
          path={path}
          onChange={once}
        />
      );
    case 'part':
      return <PartCell spec={spec} value={value as string} path={path} onChange={once} />;
    case 'joints':
      return <JointsCell spec={spec} value={value as string[]} path={path} onChange={once} />;
    case 'radii':
      return <RadiiCell value={value as BoneRadii} path={path} onChange={put} onSettle={settle} />;
    case 'keys':
      return <KeysTable keys={value as Keys} rate={rate} onChange={put} onSettle={settle} />;
    case 'formula':
      return (
        <FormulaField
          label={spec.title}
          text={value as string}
          particle={false}
          path={path}
          onChange={once}
        />
      );
    case 'mask':
      return <MaskCell mask={value as Mask} path={path} onChange={once} />;
    case 'take':
      return <TakeCell take={value as Take} path={path} onChange={once} />;
    case 'strokes':
      return <StrokesCell strokes={value as Strokes} path={path} onChange={once} />;
    case 'label':
      return <LabelCell label={spec.title} value={value as string} onChange={once} />;
    case 'shortcut':
      return (
        <ShortcutCell label={spec.title} value={value as string} path={path} onChange={once} />
      );
    case 'learnt':
      return <LearntCell value={value as string} path={path} onChange={once} />;
    case 'option':
      return <OptionCell title={spec.title} value={value as string} path={path} onChange={once} />;
    case 'stops':
      return (
        <GradientEditor
          label={spec.title}
          stops={value as Stop[]}
          rate={rate}
          onChange={put}
          onSettle={settle}
        />
      );
    case 'moves':
      return <MovesCell moves={value as Moves} path={path} onChange={put} onSettle={settle} />;
    case 'sets':
      return <SetsCell sets={value as Sets} onChange={put} onSettle={settle} />;
    case 'bursts':
      return <BurstsCell bursts={value as Bursts} onChange={put} onSettle={settle} />;
    case 'vector':
      return (
        <VectorCell
          spec={spec}
          value={value as VectorFeed}
          rate={rate}
          path={path}
          onChange={put}
          onSettle={settle}
        />
      );
    case 'number':
      return (
        <NumberCell
          label={spec.title}
          spec={spec}
          value={value as NumberFeed}
          rate={rate}
          onChange={put}
          onSettle={settle}
          onReset={() => {
            once(spec.default);
          }}
        />
      );
  }
}
