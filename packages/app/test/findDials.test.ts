import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { kindOf, swarmDials } from '@vast-swarm/core/kinds';
import type { DialValue } from '@vast-swarm/core/feeds';
import { smallPiece } from '../../../tests/support/pieces';
import { limitsOf } from '../src/sheet/DialName';
import { everyDial, findDials } from '../src/sheet/findDials';
import { isChanged } from '../src/sheet/shownDials';

test('a dial is found by its name, and by the part it belongs to', () => {
  const all = everyDial(smallPiece());
  const titles = (text: string): string[] =>
    findDials(all, text).map((d) => `${d.part}: ${d.title}`);
  expect(titles('lifet')).toEqual(['Motes: Lifetime']);
  expect(titles('motes rate')[0]).toBe('Motes: Rate');
  expect(titles('curl str')).toEqual(['Curl noise: Strength']);
  // What begins with the word comes before what has it somewhere.
  const rank = titles('size').map((t) => t.split(': ')[1]!.toLowerCase().indexOf('size'));
  expect(rank[0]).toBe(0);
  expect(rank.map((at) => at !== 0)).toEqual(rank.map((at) => at !== 0).sort());
  expect(titles('')).toEqual([]);
  expect(titles('no such dial')).toEqual([]);
});

test('each is where it says, in a group that the sheet has', () => {
  for (const { piece } of DEMO_SHOW.pieces) {
    const elsewhere = everyDial(piece).filter(({ path, group, selection: { id } }) => {
      const [list, at, section] = path as [string, number, string];
      const there =
        id === '' ? /^(camera|backdrop)$/.test(list) : piece[list as 'swarms'][at]!.id === id;
      return group === '' || !there || (section === 'emitter' && group !== 'Emitter');
    });
    expect(elsewhere).toEqual([]);
  }
});

test('forty swarms and sixty forces are looked through at once', () => {
  const piece = smallPiece((p) => {
    const [swarm, force] = [p.swarms[0]!, p.forces[0]!];
    p.swarms = Array.from({ length: 40 }, (_, i) => ({
      ...swarm,
      id: `s${String(i)}`,
      name: `Swarm ${String(i)}`,
    }));
    p.forces = Array.from({ length: 60 }, (_, i) => ({
      ...force,
      id: `f${String(i)}`,
      name: `Force ${String(i)}`,
    }));
  });
  const all = everyDial(piece);
  expect(all.length).toBeGreaterThan(1500);
  expect(findDials(all, 'lifetime swarm 39').map((d) => d.part)).toEqual(['Swarm 39']);
  expect(findDials(all, 'e')).toHaveLength(40);
});

test('what a dial may be is told with its unit', () => {
  expect(limitsOf(swarmDials.rate)).toBe('0 to 10\u202f000\u202f000 /s; begins with 2\u202f000');
  const { dials } = kindOf('emitters', 'outline');
  expect(limitsOf(dials.places!)).toBe('1 to 100\u202f000, whole; begins with 200');
  expect(limitsOf(dials.placing!)).toBeNull();
});

test('a dial counts as changed where its value is another one, however it is fed', () => {
  const { rate, lifetime } = swarmDials;
  expect(isChanged(rate, structuredClone(rate.default))).toBe(false);
  expect(isChanged(rate, 2001)).toBe(true);
  expect(isChanged(lifetime, JSON.parse(JSON.stringify(lifetime.default)) as DialValue)).toBe(
    false,
  );
  expect(isChanged(lifetime, { feed: 'spread', from: 1, to: 1 })).toBe(true);
});
