import type { ReactNode } from 'react';
import { HIGH, WIDE } from './lanes';

/** A lane of the bench: what it draws is moved with the playhead; see TimePanel. */
export function LaneSvg({ label, children }: { label: string; children: ReactNode }) {
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`0 0 ${String(WIDE)} ${String(HIGH)}`}
      preserveAspectRatio="none"
    >
      <g data-moves="">{children}</g>
    </svg>
  );
}
