import { wgslConstants } from '@vast-swarm/core/plan';
import { QUADS, WORDS } from '../words';

/** Which particles are linked, as the CPU engine's links.ts finds it. `items` are the slots. */
export const LINKING = /* wgsl */ `
${wgslConstants(WORDS.links)}
@group(0) @binding(0) var<storage, read_write> memory: array<u32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, ${QUADS}>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
fn number(i: i32) -> f32 { return bitcast<f32>(word(i)); }
fn own(name: i32, p: i32) -> f32 { return bitcast<f32>(memory[word(name) + p]); }
var<private> ranks: array<u32, 64>;
var<private> slots: array<i32, 64>;
fn place(i: i32) -> vec3<f32> { return vec3<f32>(own(PX, i), own(PY, i), own(PZ, i)); }
fn cellOf(p: vec3<f32>) -> vec3<i32> {
  return vec3<i32>(clamp(floor(p * number(INVERSE_SIDE)), vec3<f32>(-1e6), vec3<f32>(1e6)));
}
fn mixed(x: u32) -> u32 {
  var h = x;
  h = (h ^ (h >> 16u)) * 0x7feb352du;
  h = (h ^ (h >> 15u)) * 0x846ca68bu;
  return h ^ (h >> 16u);
}
fn rankOf(i: i32, j: i32) -> u32 {
  return mixed(mixed(u32(min(i, j))) ^ (u32(max(i, j)) * 0x9e3779b1u));
}
fn lives(i: i32) -> bool { let age = own(AGE, i); return age >= 0.0 && age < own(LIFE, i); }
fn gather(i: i32) -> i32 {
  let p = place(i);
  let middle = cellOf(p);
  let most = word(MOST);
  // Of a piece that loops each round is linked by itself, by its numbers in the round.
  let ids = word(ROUND_IDS);
  let base = i - i % ids;
  var n = 0;
  for (var turn = 0; turn < 27; turn++) {
    let cell = middle + vec3<i32>(turn % 3, (turn / 3) % 3, turn / 9) - 1;
    let hashed = ((cell.x * 73856093) ^ (cell.y * 19349663) ^ (cell.z * 83492791)) & word(MASK);
    let begin = i32(memory[word(START) + hashed]);
    let stop = min(i32(memory[word(START) + hashed + 1]), begin + 256);
    for (var k = begin; k < stop; k++) {
      let j = i32(memory[word(ORDER) + k]);
      if (j == i || j < base || j >= base + ids) { continue; }
      let q = place(j);
      if (any(cellOf(q) != cell)) { continue; }
      let d = q - p;
      if (!(dot(d, d) < number(RADIUS) * number(RADIUS))) { continue; }
      let rank = rankOf(i - base, j - base);
      if (n >= most && rank >= ranks[most - 1]) { continue; }
      var at = n;
      if (n < most) { n += 1; } else { at = most - 1; }
      while (at > 0 && ranks[at - 1] > rank) {
        ranks[at] = ranks[at - 1];
        slots[at] = slots[at - 1];
        at -= 1;
      }
      ranks[at] = rank;
      slots[at] = j;
    }
  }
  return n;
}
@compute @workgroup_size(64) fn rankLinks(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(ITEMS)) { return; }
  let most = word(MOST);
  var rank = 0u;
  var n = 0;
  if (lives(i)) {
    n = gather(i);
    rank = 0xffffffffu;
    if (n >= most) { rank = ranks[most - 1]; }
  }
  for (var k = 0; k < n; k++) {
    memory[word(ENDS) + i * most + k] = u32(slots[k]);
    memory[word(PAIR_RANKS) + i * most + k] = ranks[k];
  }
  memory[word(RANKS) + i] = rank;
  memory[word(KEPT) + i] = u32(n);
}
@compute @workgroup_size(64) fn keepLinks(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(ITEMS)) { return; }
  let first = i * word(MOST);
  let n = i32(memory[word(KEPT) + i]);
  var kept = 0;
  for (var k = 0; k < n; k++) {
    let j = memory[word(ENDS) + first + k];
    let rank = memory[word(PAIR_RANKS) + first + k];
    if (i32(j) < i || rank > memory[word(RANKS) + i32(j)]) { continue; }
    memory[word(ENDS) + first + kept] = j;
    memory[word(PAIR_RANKS) + first + kept] = rank;
    kept += 1;
  }
  memory[word(KEPT) + i] = u32(kept);
}
`;

/**
 * The rank at place "total" of all pairs, eight bits at a time from the top: counts pairs by the next
 * byte, then one invocation reads the counts. Counters: 256 bins, the bits found, how many are left.
 */
export const LINK_LIMIT = /* wgsl */ `
${wgslConstants(WORDS.links)}
@group(0) @binding(0) var<storage, read_write> memory: array<u32>;
@group(0) @binding(1) var<uniform> params: array<vec4<i32>, ${QUADS}>;
@group(0) @binding(2) var<storage, read_write> counts: array<atomic<u32>>;
fn word(i: i32) -> i32 { return params[i >> 2][i & 3]; }
@compute @workgroup_size(64) fn histogram(@builtin(global_invocation_id) id: vec3<u32>) {
  let i = i32(id.x + id.y * 65536u);
  if (i >= word(ITEMS)) { return; }
  let shift = u32(word(SHIFT));
  let found = atomicLoad(&counts[256]);
  let n = i32(memory[word(KEPT) + i]);
  for (var k = 0; k < n; k++) {
    let rank = memory[word(PAIR_RANKS) + i * word(MOST) + k];
    if (shift == 24u || (rank >> min(shift + 8u, 31u)) == found) {
      atomicAdd(&counts[(rank >> shift) & 255u], 1u);
    }
  }
}
@compute @workgroup_size(1) fn choose() {
  let first = word(SHIFT) == 24;
  var left = atomicLoad(&counts[257]);
  if (first) { left = u32(word(TOTAL_LINKS)); }
  var bin = 0u;
  while (bin < 255u && atomicLoad(&counts[bin]) <= left) {
    left -= atomicLoad(&counts[bin]);
    bin += 1u;
  }
  // All of them fit: the limit lies behind every rank.
  let all = first && bin == 255u && atomicLoad(&counts[255]) <= left;
  if (all) { atomicStore(&counts[258], 1u); }
  let found = (atomicLoad(&counts[256]) << 8u) | bin;
  atomicStore(&counts[256], found);
  atomicStore(&counts[257], left);
  for (var k = 0u; k < 256u; k++) { atomicStore(&counts[k], 0u); }
  if (word(SHIFT) == 0) {
    memory[word(LIMIT)] = select(found, 0xffffffffu, atomicLoad(&counts[258]) == 1u);
  }
}
`;
