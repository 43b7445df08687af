type Triple = readonly [number, number, number];

/** Rows of the rotation about x, then y, then z, by angles in degrees. */
export function rotationRows(angles: Triple): [Triple, Triple, Triple] {
  const [a, b, c] = angles.map((d) => (d * Math.PI) / 180) as [number, number, number];
  const [cx, sx, cy, sy, cz, sz] = [
    Math.cos(a),
    Math.sin(a),
    Math.cos(b),
    Math.sin(b),
    Math.cos(c),
    Math.sin(c),
  ] as [number, number, number, number, number, number];
  return [
    [cy * cz, sx * sy * cz - cx * sz, cx * sy * cz + sx * sz],
    [cy * sz, sx * sy * sz + cx * cz, cx * sy * sz - sx * cz],
    [-sy, sx * cy, cx * cy],
  ];
}
