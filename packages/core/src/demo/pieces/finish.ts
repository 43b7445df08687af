import type { Part } from '../../piece/types';

type Loose = Omit<Part, 'dials'> & { dials: Record<string, number> };

/** The finish that most pieces of the show share: bloom, exposure, vignette, grain. */
export function showFinish(bloom: number, stops: number, threshold = 0.15): Loose[] {
  const part = (kind: string, name: string, dials: Loose['dials']): Loose => ({
    ...{ id: kind, name, on: true, kind, dials },
  });
  return [
    part('bloom', 'Bloom', { amount: bloom, threshold, radius: 0.14 }),
    part('exposure', 'Exposure and tone', { stops, bleed: 0.04 }),
    part('vignette', 'Vignette', { amount: 0.45, start: 0.4 }),
    part('grain', 'Grain', { amount: 0.022 }),
  ];
}
