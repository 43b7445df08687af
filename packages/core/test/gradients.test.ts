import {
  GRADIENT_SET,
  gradientOfCpt,
  gradientOfSvg,
  gradientToCpt,
  gradientToSvg,
  readGradient,
  stopsSchema,
  StockError,
  tableOfCube,
} from '../src';

test('gradients come back from SVG as they went, light and all', () => {
  for (const { name, stops } of GRADIENT_SET) {
    expect(stopsSchema.safeParse(stops).success).toBe(true);
    const back = gradientOfSvg(gradientToSvg(name, stops));
    expect(back).toEqual(stops);
  }
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
