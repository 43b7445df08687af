import { GRADIENT_SET } from '@vast-swarm/core/feeds';
import { gradientOfCpt, gradientOfSvg } from '../src/formats/gradients';
import { gradientToCpt, gradientToSvg, readGradient } from '@vast-swarm/core/formats';
import { stopsSchema } from '../src/feeds/gradient';
import { StockError, tableOfCube } from '@vast-swarm/core/stock';
import { hexOf } from '../src/feeds/colour';
import { gradientAt } from '../src/feeds/gradient';

test('gradients come back from SVG as they went, light and all', () => {
  for (const { name, stops } of GRADIENT_SET) {
    expect(stopsSchema.safeParse(stops).success).toBe(true);
    const back = gradientOfSvg(gradientToSvg(name, stops));
    expect(back).toEqual(stops);
  }
});

/** What a program comes to that mixes what screens show straight between stops: at 0, 1/200 and so on. */
function mixedElsewhere(stops: { at: number; colour: number[] }[]): number[][] {
  return Array.from({ length: 201 }, (_, k) => {
    const at = k / 200;
    const after = stops.findIndex((s) => s.at >= at);
    const [a, b] = [stops[Math.max(0, after - 1)]!, stops[after < 0 ? stops.length - 1 : after]!];
    const t = b.at > a.at ? Math.min(1, Math.max(0, (at - a.at) / (b.at - a.at))) : 1;
    return a.colour.map((c, i) => c + (b.colour[i]! - c) * t);
  });
}

const channels = (hex: string): number[] =>
  [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16));

test.each(['straight', 'smooth', 'rush'] as const)(
  'others come to the same colours, to two steps of 255, and it comes back as it was: %s',
  (ease) => {
    const stops = [
      { at: 0, colour: '#000000', ease },
      { at: 0.3, colour: '#ff2000', ease },
      { at: 0.55, colour: '#00d0ff' },
      { at: 1, colour: '#ffffff' },
    ];
    const wanted = Array.from({ length: 201 }, (_, k) =>
      channels(hexOf(gradientAt(stops, k / 200))),
    );
    const svg = gradientToSvg('x', stops);
    const inSvg = [...svg.matchAll(/offset="([^"]+)" stop-color="([^"]+)"/g)];
    const cpt = gradientToCpt('x', stops);
    const slices = cpt
      .split('\n')
      .filter((l) => /^\d/.test(l))
      .map((l) => l.split('\t'));
    const ends = slices.flatMap(([v0, c0, v1, c1]) => [
      { at: Number(v0), colour: c0!.split('/').map(Number) },
      { at: Number(v1), colour: c1!.split('/').map(Number) },
    ]);
    for (const mixed of [
      mixedElsewhere(inSvg.map(([, at, c]) => ({ at: Number(at), colour: channels(c!) }))),
      mixedElsewhere(ends),
    ]) {
      const off = mixed.map((rgb, k) =>
        Math.max(...rgb.map((v, i) => Math.abs(v - wanted[k]![i]!))),
      );
      expect(Math.max(...off)).toBeLessThanOrEqual(2.5);
    }
    // Without them it would be far off.
    expect(inSvg.length).toBeGreaterThan(stops.length);
    expect(gradientOfSvg(svg)).toEqual(stops);
    expect(gradientOfCpt(cpt)).toEqual(stops.map(({ at, colour }) => ({ at, colour })));
  },
);

test('a colour that is held jumps in the files of others too, and comes back', () => {
  const stops = [
    { at: 0, colour: '#102030', ease: 'hold' as const },
    { at: 0.5, colour: '#ff0000' },
    { at: 1, colour: '#ffffff' },
  ];
  const svg = gradientToSvg('x', stops);
  expect(svg).toContain('<stop offset="0.5" stop-color="#102030" data-between="yes"/>');
  expect(gradientOfSvg(svg)).toEqual(stops);
  const cpt = gradientToCpt('x', stops);
  expect(cpt).toContain('0.0000\t16/32/48\t0.5000\t16/32/48\t;between\n0.5000\t255/0/0');
  expect(gradientOfCpt(cpt)).toEqual(stops.map(({ at, colour }) => ({ at, colour })));
});

test('gradients of other programs are read', () => {
  const svg = `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg"><defs>
    <linearGradient id="a"><stop offset="0%" style="stop-color:rgb(255, 128, 0);stop-opacity:1"/>
    <stop offset="100%" stop-color="#0af"/></linearGradient></defs></svg>`;
  expect(readGradient('a.svg', svg)).toEqual([
    { at: 0, colour: '#ff8000' },
    { at: 1, colour: '#00aaff' },
  ]);
  const named = svg.replace('#0af', 'Teal').replace('rgb(255, 128, 0)', 'hsl(30 100% 50% / 0.5)');
  expect(readGradient('a.svg', named).map((s) => s.colour)).toEqual(['#ff8000', '#008080']);
  const cpt =
    '# COLOR_MODEL = RGB\n-10 0 0 128 0 0 255 255\n0 0 255 255 30 255/0/0\nB 0 0 0\nF 255 255 255\n';
  expect(() => gradientOfCpt(cpt.replace('30 255', '30 300'))).toThrow('Line 3: colours go');
  expect(() => gradientOfCpt('0 0 0')).toThrow('Line 1');
  expect(gradientOfCpt(cpt)).toEqual([
    { at: 0, colour: '#000080' },
    { at: 0.25, colour: '#00ffff' },
    { at: 1, colour: '#ff0000' },
  ]);
  const [, second] = GRADIENT_SET;
  const back = gradientOfCpt(gradientToCpt('x', second!.stops));
  expect(back.map((s) => s.at)).toEqual(second!.stops.map((s) => Math.round(s.at * 1e4) / 1e4));
});

test.each([
  ['nothing', '<svg/>', 'There is no gradient with stops'],
  [
    'a colour',
    '<svg><linearGradient><stop stop-color="pinkish"/></linearGradient></svg>',
    "Stop 1: the colour 'pinkish'",
  ],
  [
    'an offset',
    '<svg><linearGradient><stop offset="far"/></linearGradient></svg>',
    "the offset 'far'",
  ],
])('a gradient with %s wrong is refused in words', (_, text, message) => {
  expect(() => gradientOfSvg(text)).toThrow(message);
});

const CUBE = ['LUT_3D_SIZE 2', ...Array.from({ length: 8 }, (_, i) => `${String(i / 8)} 0 0`)];

test.each([
  ['short', CUBE.slice(0, -1), 'it has 7 colours; a table of 2 has 8'],
  ['with NaN', [...CUBE.slice(0, 4), '0.1 NaN 0', ...CUBE.slice(5)], 'line 5: three numbers'],
  ['without a size', CUBE.slice(1), 'line 1: colours come after LUT_3D_SIZE'],
  ['of one dimension', ['LUT_1D_SIZE 4'], 'line 1: this table has one dimension'],
  ['with a domain that is none', ['DOMAIN_MIN 1 1 1', ...CUBE], 'DOMAIN_MIN is not below'],
])('a .cube file %s is refused by its line', (_, lines, message) => {
  const read = (): unknown => tableOfCube('look.cube', lines.join('\n'));
  expect(read).toThrow(StockError);
  expect(read).toThrow(message);
});

test('a .cube file with comments, a title and a domain is read', () => {
  const text = ['# by hand', 'TITLE "Warm"', 'DOMAIN_MAX 2 2 2', ...CUBE].join('\r\n');
  expect(tableOfCube('a.cube', text)).toMatchObject({ size: 2, high: [2, 2, 2] });
});
