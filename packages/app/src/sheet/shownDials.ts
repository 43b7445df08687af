import equal from 'fast-deep-equal';
import { isWanted, type DialSpec, type Dials, type DialValues } from '@vast-swarm/core/kinds';
import type { DialValue } from '@vast-swarm/core/feeds';
import { useApp } from '../store/store';

/** Whether a dial has another value than it begins with. */
export function isChanged(spec: DialSpec, value: DialValue | undefined): boolean {
  return value !== undefined && !equal(value, spec.default);
}

/** Dials that a sheet shows: those that have a meaning beside the others, or of these the ones that were changed. */
export function useShownDials(dials: Dials, values: DialValues): [key: string, spec: DialSpec][] {
  const changedOnly = useApp((s) => s.tools.changedOnly);
  return Object.entries(dials).filter(
    ([key, spec]) => isWanted(spec, values) && (!changedOnly || isChanged(spec, values[key])),
  );
}
