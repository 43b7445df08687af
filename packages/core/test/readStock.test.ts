import { Document, WebIO } from '@gltf-transform/core';
import { encode } from 'fast-png';
import {
  addReader,
  readStock,
  stockData,
  StockError,
  type Cloud,
  type Mesh,
  type Picture,
} from '@vast-swarm/core/stock';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

const TETRAHEDRON = `# a comment
v 0 0 0
v 1 0 0
v 0 1 0
v 0 0 1
f 1 3 2
f 1 2 4
f 1 4 3
f 2 3 4
`;

test('OBJ: vertices are welded, faces keep their turn', async () => {
  const mesh = (await readStock('salt.obj', bytes(TETRAHEDRON))) as Mesh;
  expect(mesh.type).toBe('mesh');
  expect(mesh.positions.length / 3).toBe(4);
  expect(mesh.triangles.length / 3).toBe(4);
});

test('PLY in text and binary, with colours, faces or points alone', async () => {
  const head = (format: string, faces: number): string =>
    `ply\nformat ${format} 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n` +
    `property uchar red\nproperty uchar green\nproperty uchar blue\n` +
    (faces ? `element face ${String(faces)}\nproperty list uchar int vertex_indices\n` : '') +
    'end_header\n';
  const rows = '0 0 0 255 0 0\n2 0 0 0 255 0\n0 3 0 0 0 255\n';
  const mesh = (await readStock('a.ply', bytes(`${head('ascii', 1)}${rows}3 0 1 2\n`))) as Mesh;
  expect([mesh.type, mesh.triangles.length, mesh.colours!.length]).toEqual(['mesh', 3, 9]);
  expect([...mesh.colours!.slice(0, 3)]).toEqual([1, 0, 0]);
  const cloud = (await readStock('b.ply', bytes(`${head('ascii', 0)}${rows}`))) as Cloud;
  expect([cloud.type, cloud.positions[3]]).toEqual(['cloud', 2]);
  const start = bytes(head('binary_little_endian', 0));
  const file = new Uint8Array(start.length + 45);
  file.set(start);
  const view = new DataView(file.buffer);
  [0, 1, 2].forEach((i) => {
    view.setFloat32(start.length + 15 * i, i * 1.5, true);
  });
  const binary = (await readStock('c.ply', file)) as Cloud;
  expect([...binary.positions]).toEqual([0, 0, 0, 1.5, 0, 0, 3, 0, 0]);
});

test('STL in text', async () => {
  const facet =
    'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n';
  const mesh = (await readStock('a.stl', bytes(`solid a\n${facet}endsolid a\n`))) as Mesh;
  expect([mesh.positions.length, [...mesh.triangles]]).toEqual([9, [0, 1, 2]]);
});

test('GLB made by another program: nodes stand where they are put', async () => {
  const document = new Document();
  const buffer = document.createBuffer();
  const positions = document.createAccessor().setType('VEC3').setBuffer(buffer);
  positions.setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]));
  const primitive = document.createPrimitive().setAttribute('POSITION', positions);
  const node = document.createNode().setTranslation([5, 0, 0]).setScale([2, 2, 2]);
  node.setMesh(document.createMesh().addPrimitive(primitive));
  document.createScene().addChild(node);
  const mesh = (await readStock('a.glb', await new WebIO().writeBinary(document))) as Mesh;
  expect([...mesh.positions]).toEqual([5, 0, 0, 7, 0, 0, 5, 2, 0]);
});

test('SVG: paths, simple shapes and the transforms of groups', async () => {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg"><defs><path d="M0 0L9 9"/></defs>
    <g transform="translate(10 0)"><rect x="0" y="0" width="4" height="2"/>
    <path transform="scale(2)" d="M0 0 L1 1"/></g><circle cx="0" cy="0" r="3"/></svg>`;
  const outline = await readStock('a.svg', bytes(svg));
  if (outline.type !== 'outline') throw new Error('no outline');
  expect(outline.curves.map((c) => c.closed)).toEqual([true, false, true]);
  expect([...outline.curves[0]!.points.slice(0, 6)]).toEqual([10, -0, 0, 14, -0, 0]);
  expect([...outline.curves[1]!.points.slice(3, 5)]).toEqual([12, -2]);
});

test('PNG of eight and sixteen bits', async () => {
  const data = new Uint8Array([255, 0, 0, 255, 0, 128, 0, 64]);
  const png = encode({ width: 2, height: 1, data, channels: 4, depth: 8 });
  const picture = (await readStock('a.png', png)) as Picture;
  expect([picture.width, ...picture.pixels]).toEqual([2, ...data]);
  const deep = encode({
    width: 1,
    height: 1,
    data: new Uint16Array([65535]),
    channels: 1,
    depth: 16,
  });
  expect([...((await readStock('b.png', deep)) as Picture).pixels]).toEqual([255, 255, 255, 255]);
});

test('a picture of 16 384 pixels a side is refused by its head, before it is unpacked', async () => {
  const png = encode({ width: 1, height: 1, data: new Uint8Array(4), channels: 4, depth: 8 });
  const head = new DataView(png.buffer, png.byteOffset);
  head.setUint32(16, 16_384);
  head.setUint32(20, 16_384);
  await expect(readStock('wall.png', png)).rejects.toThrow('wall.png: it has 16384 × 16384 pixels');
});

test('points as text: by order, by names, with colours of 0 to 255', async () => {
  const xyz = (await readStock('a.xyz', bytes('0 0 0\n# note\n1 2 3\n'))) as Cloud;
  expect([...xyz.positions]).toEqual([0, 0, 0, 1, 2, 3]);
  // As spreadsheets and other languages write them: quoted, by semicolons, by tabs, far apart.
  for (const [name, text] of [
    ['a.csv', '"x","y","z"\r\n"1","2","3"\r\n'],
    ['b.csv', 'z;x;y\n3;1;2\n'],
    ['c.xyz', 'x\ty\tz\n\n1\t2\t3\n'],
    ['d.xyz', '   1.0    2   3.0e0  \n// done\n'],
  ] as const) {
    const { positions } = (await readStock(name, bytes(text))) as Cloud;
    expect([name, ...positions]).toEqual([name, 1, 2, 3]);
  }
  const csv = (await readStock(
    'a.csv',
    bytes('id,z,y,x,red,green,blue\n1,3,2,1,255,0,0\n'),
  )) as Cloud;
  expect([...csv.positions, ...csv.colours!]).toEqual([1, 2, 3, 1, 0, 0]);
});

test.each<[string, string, string]>([
  ['a.csv', 'x,y,z\n1,2,3\n4,oops,6\n', "line 3: 'oops' in column 2 is no number"],
  ['a.csv', 'x,y,z\n1,2\n', 'line 2'],
  ['a.xyz', '12\n', 'line 1: three numbers'],
  ['a.obj', 'v 0 nan 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n', "line 1: 'nan' is no number"],
  ['a.obj', '# nothing\n', 'no points'],
  ['a.svg', '<svg><g/></svg>', 'no path'],
  ['a.svg', '<svg><path d="M0 0 L x"/></svg>', 'line number 1'],
  ['a.png', 'not a picture', 'this is no PNG'],
  ['a.glb', 'not a mesh', 'glTF cannot be read'],
  ['a.xls', 'x', 'not known'],
  ['a.ply', '', 'empty'],
])('%s that holds %j is refused: %s', async (name, text, problem) => {
  const error = await readStock(name, bytes(text)).catch((e: unknown) => e);
  expect(error).toBeInstanceOf(StockError);
  expect((error as Error).message).toContain(problem);
  expect((error as Error).message).toContain(name);
});

test('a file is brought to our measure: z up, centred, at a size', async () => {
  const data = await readStock('a.obj', bytes(TETRAHEDRON));
  const source = { file: 'a.obj', hash: '0123456789abcdef', up: 'z' as const, size: 4 };
  const entry = { id: 'a', name: 'A', type: 'mesh' as const, source };
  const mesh = stockData(entry, new Map([[source.hash, data]])) as Mesh;
  const height = [...mesh.positions].filter((_, i) => i % 3 === 1);
  expect(Math.min(...height)).toBeCloseTo(-2);
  expect(Math.max(...height)).toBeCloseTo(2);
  expect(stockData(entry, new Map())).toBeUndefined();
});

test('a kind of file from outside is read as all others are, and its faults are told like theirs', async () => {
  addReader({
    endings: ['dots'],
    gives: 'cloud',
    load: () =>
      Promise.resolve((_, bytes) => ({
        type: 'cloud',
        positions: Float32Array.from(new TextDecoder().decode(bytes).split(' '), Number),
      })),
  });
  const dots = await readStock('two.dots', bytes('0 1 2 3 4 5'));
  expect(dots).toMatchObject({ type: 'cloud', positions: Float32Array.of(0, 1, 2, 3, 4, 5) });
  await expect(readStock('bad.dots', bytes('0 1 x'))).rejects.toThrow(
    'bad.dots: point 1 has no finite place',
  );
  await expect(readStock('other.dashes', new Uint8Array(1))).rejects.toThrow(/known are DOTS, OBJ/);
});
