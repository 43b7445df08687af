import type { Stop } from './gradient';

/** Stops at even distances; a colour with a number behind it glows that much. */
function even(...colours: (string | [string, number])[]): Stop[] {
  return colours.map((c, i) => {
    const at = Math.round((i / (colours.length - 1)) * 1000) / 1000;
    return typeof c === 'string' ? { at, colour: c } : { at, colour: c[0], light: c[1] };
  });
}

/** Gradients that come with the application. */
export const GRADIENT_SET: readonly { name: string; stops: Stop[] }[] = [
  { name: 'Lantern', stops: even(['#fff0c8', 3], ['#ffb347', 1.8], '#d8541e', '#3a0d12') },
  { name: 'Plankton', stops: even('#04121c', '#0d5c6b', ['#43e0c0', 1.4], ['#eafff2', 2.5]) },
  { name: 'Harbour dusk', stops: even('#0c1030', '#3b2a6b', '#b4466f', '#ff9455', '#ffe2a8') },
  { name: 'Mussel', stops: even('#0a0e18', '#27376b', '#6f6fb0', '#d2b8d8', '#f6ead8') },
  { name: 'Kelp', stops: even('#0a120a', '#27431f', '#6f8b2d', '#d3c45a', '#fbf3c4') },
  {
    name: 'Ember',
    stops: even('#120406', '#6b1110', ['#e2431a', 1.5], ['#ffb03a', 2.5], ['#fff4d0', 4]),
  },
  { name: 'Foam', stops: even('#06232c', '#1f7f8f', '#a6e3de', '#ffffff') },
  { name: 'Rust', stops: even('#1b1512', '#5c3320', '#a9582b', '#d99a63', '#f0dcc0') },
  { name: 'Beacon', stops: even(['#ffffff', 4], ['#9fd8ff', 2], '#2f6fd8', '#121a4a') },
  { name: 'Salt', stops: even('#20313f', '#7ba0ad', '#eef4f0', '#ffd9b8') },
];
