import { Document, WebIO, type Node } from '@gltf-transform/core';
import { particleTable } from '../src/formats/particleTable';
import {
  readStock,
  type Cloud,
  type Mesh,
  type Outline,
  type StockData,
} from '@vast-swarm/core/stock';
import { toCsv, toPly } from '../src/formats/particles';
import { refusal } from '../../../tests/support/refusal';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Corners of all triangles, one after the other. */
function corners({ positions, triangles }: Mesh): number[][] {
  return [...triangles].map((v) => [...positions.subarray(3 * v, 3 * v + 3)]);
}

const PLY = (faces: string, count: number): string =>
  'ply\nformat ascii 1.0\nelement vertex 5\nproperty double x\nproperty double y\nproperty double z\n' +
  `element face ${String(count)}\nproperty uchar kind\nproperty list uchar int vertex_indices\nend_header\n` +
  `0 0 0\n2 0 0\n3 1 0\n2 2 0\n0 2 0\n${faces}`;

describe('PLY', () => {
  test('polygons of any number of corners are read whole', async () => {
    const mesh = (await readStock('a.ply', bytes(PLY('7 5 0 1 2 3 4\n', 1)))) as Mesh;
    expect(mesh.triangles).toHaveLength(9);
    const area = [0, 1, 2].reduce((sum, k) => {
      const [a, b, c] = corners(mesh).slice(3 * k, 3 * k + 3) as [number[], number[], number[]];
      return sum + ((b[0]! - a[0]!) * (c[1]! - a[1]!) - (c[0]! - a[0]!) * (b[1]! - a[1]!)) / 2;
    }, 0);
    expect(area).toBeCloseTo(5);
  });

  test('its forms agree: text, little and big endian, old and new names of numbers', async () => {
    const file = (form: string, names: [string, string, string]): Uint8Array => {
      const little = form.includes('little');
      const head = `ply\r\nformat ${form} 1.0\r\nelement vertex 3\r\nproperty ${names[0]} x\r\nproperty ${names[0]} y\r\nproperty ${names[0]} z\r\nelement face 1\r\nproperty list ${names[1]} ${names[2]} vertex_index\r\nend_header\r\n`;
      const view = new DataView(new ArrayBuffer(9 * 4 + 1 + 3 * 2));
      [0, 0, 0, 1.5, 0, 0, 0, 2.5, 0].forEach((v, i) => {
        view.setFloat32(4 * i, v, little);
      });
      view.setUint8(36, 3);
      [0, 1, 2].forEach((v, i) => {
        view.setUint16(37 + 2 * i, v, little);
      });
      return Uint8Array.from([...bytes(head), ...new Uint8Array(view.buffer)]);
    };
    const read = [
      file('binary_little_endian', ['float', 'uchar', 'ushort']),
      file('binary_big_endian', ['float32', 'uint8', 'uint16']),
    ].map((data) => readStock('a.ply', data));
    for (const mesh of await Promise.all(read)) {
      expect(corners(mesh as Mesh)).toEqual([
        [0, 0, 0],
        [1.5, 0, 0],
        [0, 2.5, 0],
      ]);
    }
    const whole = file('binary_little_endian', ['float', 'uchar', 'ushort']);
    for (let cut = 1; cut < 43; cut++) {
      expect(await refusal('a.ply', whole.subarray(0, whole.length - cut))).toBe(
        'a.ply: it ends before all that its head tells.',
      );
    }
  });

  test.each([
    [PLY('7 3 0 1 5\n', 1), 'line 16: a face names vertex 5 of 5 (from 0)'],
    [PLY('7 3 0 1 -1\n', 1), 'line 16: a face names vertex -1 of 5'],
    [PLY('7 3 0 1\n', 1), "line 16: 'nothing' is no number"],
    [PLY('7 3 0 1 2\n', 2), 'it ends before all that its head tells'],
    [PLY('', 1).replace('2 2 0', '2 two 0'), "line 14: 'two' is no number"],
    [PLY('', 0).replace('double y', 'complex y'), 'line 5: a property is a known type and a name'],
    [PLY('', 0).replace('double y', 'constructor y'), 'line 5: a property is a known type'],
    [PLY('', 0).replace('vertex 5', 'vertex -5'), "line 3: how many 'vertex' is no number"],
    [PLY('', 0).replace('vertex 5', 'vertex 4000000000'), 'it ends before all that its head'],
    [PLY('', 0).replace('ascii', 'morse'), "its format 'morse' is not known"],
    [PLY('', 0).replace('double z', 'double w'), 'its vertices have no x, y and z'],
    [PLY('', 0).replace('end_header', 'end'), "no head from 'ply' to 'end_header'"],
  ])('is refused where it is broken (%#)', async (text, told) => {
    expect(await refusal('a.ply', text)).toContain(told);
  });
});

test('particles come back from our own files as they were: places and linear light', async () => {
  const by = (...values: number[]) => Float32Array.from(values);
  const table = particleTable(
    {
      age: by(0.5, 1),
      life: by(2, 2),
      px: by(1, -2),
      py: by(0.25, 8),
      pz: by(3, 0),
      vx: by(0, 0),
      vy: by(0, 0),
      vz: by(0, 0),
      size: by(0.1, 0.1),
      r: by(0.5, 4),
      g: by(0.125, 0.75),
      b: by(0, 1),
      a: by(1, 0.5),
    },
    2,
  );
  for (const [name, data] of [
    ['own.ply', toPly(table)],
    ['own.csv', bytes(toCsv(table))],
  ] as const) {
    const cloud = (await readStock(name, data)) as Cloud;
    expect([...cloud.positions]).toEqual([1, 0.25, 3, -2, 8, 0]);
    expect([...cloud.colours!]).toEqual([0.5, 0.125, 0, 4, 0.75, 1]);
  }
  // A table of somebody else holds what a screen shows.
  const other = (await readStock('other.csv', bytes('x,y,z,r,g,b\n0,0,0,0.5,0,1\n'))) as Cloud;
  expect(other.colours![0]).toBeCloseTo(0.2140411, 5);
});

test.each([
  ['x;y;z\n1,5;2,25;-3,0\n', [1.5, 2.25, -3]],
  ['1,5;2;3\n', [1.5, 2, 3]],
  ['x\ty\tz\n1,5\t2,0\t,5\n', [1.5, 2, 0.5]],
  ['x,y,z\n1.5,2,3\n', [1.5, 2, 3]],
])('commas before decimals: %j', async (text, wanted) => {
  const { positions } = (await readStock('a.csv', bytes(text))) as Cloud;
  expect([...positions]).toEqual(wanted);
});

describe('glTF', () => {
  const FLAT = [0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0];

  async function glb(build: (document: Document, mesh: (mode: number) => Node) => void) {
    const document = new Document();
    const buffer = document.createBuffer();
    build(document, (mode) => {
      const accessor = document.createAccessor().setType('VEC3').setBuffer(buffer);
      accessor.setArray(Float32Array.from(FLAT));
      const primitive = document.createPrimitive().setAttribute('POSITION', accessor);
      primitive.setMode(mode as 4);
      return document.createNode().setMesh(document.createMesh().addPrimitive(primitive));
    });
    return new WebIO().writeBinary(document);
  }

  /** Twice the area, with its sign, seen from the front: all triangles face one way. */
  function areas(mesh: Mesh): number[] {
    const all = corners(mesh);
    return Array.from({ length: all.length / 3 }, (_, k) => {
      const [a, b, c] = all.slice(3 * k, 3 * k + 3) as [number[], number[], number[]];
      return (b[0]! - a[0]!) * (c[1]! - a[1]!) - (c[0]! - a[0]!) * (b[1]! - a[1]!);
    });
  }

  test('strips are triangles that face one way, fans go about their first corner', async () => {
    const strip = await glb((d, mesh) => d.createScene().addChild(mesh(5)));
    expect(areas((await readStock('a.glb', strip)) as Mesh)).toEqual([1, 1]);
    const fan = await glb((d, mesh) => d.createScene().addChild(mesh(6)));
    expect(corners((await readStock('a.glb', fan)) as Mesh)).toEqual([
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 0],
      [0, 1, 0],
      [1, 1, 0],
      [0, 0, 0],
    ]);
  });

  test('what is in no scene that is shown is not there', async () => {
    const data = await glb((d, mesh) => {
      const shown = d.createScene().addChild(mesh(5));
      d.createScene().addChild(mesh(5).setTranslation([9, 0, 0]));
      mesh(5);
      d.getRoot().setDefaultScene(shown);
    });
    expect(areas((await readStock('a.glb', data)) as Mesh)).toHaveLength(2);
  });

  test('lines alone, and a mesh that is placed a million times, are refused', async () => {
    const lines = await glb((d, mesh) => d.createScene().addChild(mesh(1)));
    expect(await refusal('a.glb', lines)).toContain('it has lines alone');
    const many = await glb((d, mesh) => {
      const scene = d.createScene();
      const primitive = mesh(4).getMesh()!;
      const own = primitive.listPrimitives()[0]!;
      own.setIndices(
        d
          .createAccessor()
          .setType('SCALAR')
          .setArray(new Uint16Array(3 * 21_000))
          .setBuffer(d.getRoot().listBuffers()[0]!),
      );
      for (let i = 0; i < 400; i++) scene.addChild(d.createNode().setMesh(primitive));
    });
    expect(many.length).toBeLessThan(300_000);
    expect(await refusal('a.glb', many)).toContain(
      '8,400,000 triangles, and 8,388,608 is the most',
    );
  });
});

describe('SVG', () => {
  const points = async (inner: string): Promise<number[][]> => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg">${inner}</svg>`;
    const { curves } = (await readStock('a.svg', bytes(svg))) as Outline;
    return curves.map((c) => [...c.points].filter((_, i) => i % 3 < 2).map((v) => v + 0));
  };

  test('what is used stands where it is used, as often as it is', async () => {
    const line = '<defs><path id="p" d="M0 0L1 2"/><symbol id="s"><use href="#p"/></symbol></defs>';
    expect(await points(`${line}<use href="#p" x="3" y="4"/>`)).toEqual([[3, -4, 4, -6]]);
    expect(
      await points(
        `${line}<g transform="scale(2)"><use xlink:href="#s" transform="translate(1 0)"/></g>`,
      ),
    ).toEqual([[2, 0, 4, -4]]);
  });

  test('lengths have units', async () => {
    expect(await points('<line x1="1in" y1="0" x2="2.54cm" y2="72pt"/>')).toEqual([
      [96, 0, 96, -96],
    ]);
    expect(await points('<line x1="1pc" y1="0" x2="25.4mm" y2="5px"/>')).toEqual([[16, 0, 96, -5]]);
  });

  const within = (inner: string): string =>
    `<svg xmlns="http://www.w3.org/2000/svg">${inner}</svg>`;
  const thousand = Array.from({ length: 7 }, (_, k) => {
    const below = `<use href="#${k === 0 ? 'p' : `g${String(k - 1)}`}"/>`;
    return `<g id="g${String(k)}">${below.repeat(10)}</g>`;
  });

  test.each([
    [within('<use href="#ghost"/>'), "it uses 'ghost', which is not in it"],
    [within('<g id="a"><use href="#a"/></g>'), "'a' uses itself"],
    [within('<rect width="50%" height="3"/>'), "width is '50%'"],
    [within('<circle r="large"/>'), "line number 1: r is 'large'"],
    [
      within(`<defs><path id="p" d="M0 0L1 1"/>${thousand.join('')}</defs><use href="#g6"/>`),
      '100,000',
    ],
    [within(`<path d="M0 0${'c1 2 3 4 5 6'.repeat(40_000)}"/>`), 'more than a million points'],
    [within(`<path d="M0 0${'l1 2'.repeat(600_000)}"/>`), 'more than 2 million characters'],
  ])('is refused in words (%#)', async (text, told) => {
    expect(await refusal('a.svg', text)).toContain(told);
  });
});

test.each([
  ['a.obj', 'v 0 0 0\nv 1,5 0 0\nv 0 1 0\nf 1 2 3\n', "line 2: '1,5' is no number"],
  ['a.obj', 'v 0 0 0\nv nan 0 0\nv 0 1 0\nf 1 2 3\n', "line 2: 'nan' is no number"],
  ['a.obj', 'v 0 0\n', "line 1: 'v' has 2 of 3 numbers"],
  ['a.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 4\n', 'line 4: a face names vertex 4 of 3'],
  ['a.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 -4\n', 'line 4: a face names vertex -4 of 3'],
  ['a.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1/1 2/1 3/1\n', 'names place in a picture 1 of 0'],
  ['a.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 zero\n', "'zero' names no corner"],
  ['a.cube', 'LUT_3D_SIZE 2\n0 0 0\n1e9 0 0\n', 'line 3: a colour beyond 65504 is no light'],
  ['a.cube', 'LUT_3D_SIZE 2\n0 0 x\n', 'line 2: three numbers are wanted here'],
])('%s: %j is refused with its line', async (name, text, told) => {
  expect(await refusal(name, text)).toContain(told);
});

test('an OBJ counts backwards, and its polygons are read whole', async () => {
  const text = 'v 0 0 0\nv 2 0 0\nv 3 1 0\nv 2 2 0\nv 0 2 0\nf -5 -4 -3 -2 -1\n';
  const data: StockData = await readStock('a.obj', bytes(text));
  expect((data as Mesh).triangles).toHaveLength(9);
});
