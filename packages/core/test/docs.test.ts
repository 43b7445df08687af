import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { catalogue, swarmDials, type Dials } from '@vast-swarm/core/kinds';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { kindList, withKindList } from '@vast-swarm/core/formats';
import { parsePiece, pieceText } from '@vast-swarm/core/piece';

const read = (path: string): string => readFileSync(join(__dirname, '../../..', path), 'utf8');

test('the list of kinds in the file format is the one of the catalogue; else: npm run docs', () => {
  const text = read('docs/file-format.md');
  expect(text).toBe(withKindList(text));
});

test('the list tells options, limits, units and what stock a dial takes', () => {
  const list = kindList();
  expect(list).toContain('- `cone`: One direction, within a cone of some degrees.');
  expect(list).toContain('`facing`: velocity (or camera, point, fixed)');
  expect(list).toContain('`strength`: 9.81 (-1000 to 1000 m/s²)');
  expect(list).toContain('`octaves`: 2 (1 to 8, whole)');
  expect(list).toContain('`lifetime`: 2–5 (0.01 to 3600 s)');
  expect(list).toContain('`table`: none (table)');
  expect(list).toContain('`clip`: none (picture, or one of the pictures)');
});

test('what all kinds of a shelf have is told once', () => {
  const forces = kindList().split('### forces')[1]!.split('###')[0]!;
  expect(forces.match(/`regionSoft`/g)).toHaveLength(1);
  expect(forces.match(/`falloff`/g)).toHaveLength(2);
});

test.each(DEMO_SHOW.pieces.map((d) => [d.id, d.piece] as const))(
  'the file of a demo piece is of the version of today; else: npm run docs (%s)',
  (id, piece) => {
    const text = read(`demo/${id}.json`);
    expect(text).toBe(pieceText(parsePiece(text)));
    expect(parsePiece(text)).toEqual(piece);
  },
);

test('no two dials of one sheet of a swarm have the same name', () => {
  const titles = (dials: Dials): string[] => Object.values(dials).map((d) => d.title);
  const twice = new Set<string>();
  for (const emitter of catalogue.emitters) {
    for (const launch of catalogue.launches) {
      for (const body of catalogue.bodies) {
        const kinds = [emitter, launch, body].map((k) => [k.kind, titles(k.dials)] as const);
        const all = [...kinds, ['swarm', titles(swarmDials)] as const];
        for (const [kind, names] of all) {
          for (const name of names) {
            const others = all.filter(([k, list]) => k !== kind && list.includes(name));
            if (new Set(names).size < names.length) twice.add(kind);
            for (const [other] of others)
              twice.add(`${[kind, other].sort().join(' and ')}: ${name}`);
          }
        }
      }
    }
  }
  expect([...twice]).toEqual([]);
});
