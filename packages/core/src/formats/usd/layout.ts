import type { Matrix } from '../../plan/look/copies';
import type { Attribute } from './samples';

/**
 * Particles as a text file of Universal Scene Description (OpenUSD, "Usda File Format" and the schemas UsdGeomPoints and
 * UsdGeomPointInstancer): metres, y up, a time code a frame, linear light.
 */

/** A swarm's points: what each attribute tells. */
export const POINTS: readonly Attribute[] = [
  { type: 'point3f[]', name: 'points', columns: ['px', 'py', 'pz'] },
  { type: 'float[]', name: 'widths', columns: ['size'] },
  { type: 'vector3f[]', name: 'velocities', columns: ['vx', 'vy', 'vz'] },
  { type: 'int64[]', name: 'ids', columns: ['id'] },
  { type: 'color3f[]', name: 'primvars:displayColor', columns: ['r', 'g', 'b'], primvar: true },
  { type: 'float[]', name: 'primvars:displayOpacity', columns: ['a'], primvar: true },
  { type: 'float[]', name: 'primvars:age', columns: ['age'], primvar: true },
  { type: 'float[]', name: 'primvars:life', columns: ['life'], primvar: true },
];

/** Copies of a mesh, one for each particle. A rotation is its real part, then the others. */
export const INSTANCER: readonly Attribute[] = [
  { type: 'int[]', name: 'protoIndices', columns: ['proto'] },
  { type: 'point3f[]', name: 'positions', columns: ['px', 'py', 'pz'] },
  { type: 'quath[]', name: 'orientations', columns: ['qw', 'qx', 'qy', 'qz'] },
  { type: 'float3[]', name: 'scales', columns: ['sx', 'sy', 'sz'] },
  { type: 'vector3f[]', name: 'velocities', columns: ['vx', 'vy', 'vz'] },
  { type: 'int64[]', name: 'ids', columns: ['id'] },
  { type: 'color3f[]', name: 'primvars:displayColor', columns: ['r', 'g', 'b'], primvar: true },
  { type: 'float[]', name: 'primvars:displayOpacity', columns: ['a'], primvar: true },
];

/** A prim for a swarm: its points, or the copies of a mesh that one of its bodies shows. */
export interface UsdPrim {
  name: string;
  /** Three corners to a triangle, x, y, z each, of the mesh that is copied; null for points. */
  mesh: Float32Array | null;
  /** Where it is repeated, itself first. */
  copies: readonly Matrix[];
}

export interface UsdScene {
  name: string;
  rate: number;
  first: number;
  last: number;
  prims: readonly UsdPrim[];
}

/** Place of all samples of an attribute in the file. */
export interface SamplesHere {
  /** Which prim's, and the attribute's name. */
  prim: number;
  attribute: string;
}

/** Names as paths have them, each once: letters, digits and `_`, and no digit first. */
export function primNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const plain = name.replace(/[^A-Za-z0-9]+/g, '_').replace(/^(?=\d)|^$/, '_');
    let own = plain;
    for (let n = 2; taken.has(own); n++) own = `${plain}_${String(n)}`;
    taken.add(own);
    return own;
  });
}

const triple = (values: ArrayLike<number>, at: number): string =>
  `(${[0, 1, 2].map((k) => String(values[at + k]!)).join(', ')})`;

/** The file from its beginning to its end: texts, and places of samples. */
export function* usdLayout(scene: UsdScene): Generator<string | SamplesHere> {
  const { name, rate, first, last, prims } = scene;
  const names = primNames(prims.map((p) => p.name));
  const [root] = primNames([name]);
  yield `#usda 1.0
(
    defaultPrim = "${root!}"
    endTimeCode = ${String(last)}
    framesPerSecond = ${String(rate)}
    metersPerUnit = 1
    startTimeCode = ${String(first)}
    timeCodesPerSecond = ${String(rate)}
    upAxis = "Y"
)

def Xform "${root!}"
{
`;
  for (const [i, prim] of prims.entries()) {
    yield* primOf(prim, names[i]!, i, root!);
    for (const [k, matrix] of prim.copies.slice(1).entries()) {
      yield copyOf(prim, names[i]!, k + 2, matrix, root!);
    }
  }
  yield '}\n';
}

const typeOf = ({ mesh }: UsdPrim): string => (mesh ? 'PointInstancer' : 'Points');

function* primOf(
  prim: UsdPrim,
  name: string,
  index: number,
  root: string,
): Generator<string | SamplesHere> {
  yield `    def ${typeOf(prim)} "${name}"\n    {\n`;
  if (prim.mesh) yield `        rel prototypes = [</${root}/${name}/Mesh>]\n`;
  for (const { type, name: attribute, primvar } of prim.mesh ? INSTANCER : POINTS) {
    // Some readers lose their way where a name with a colon is declared without a value.
    if (primvar) {
      yield `        ${type} ${attribute} = [] (\n            interpolation = "vertex"\n        )\n`;
    }
    yield `        ${type} ${attribute}.timeSamples = {\n`;
    yield { prim: index, attribute };
    yield `        }\n`;
  }
  if (prim.mesh) yield meshOf(prim.mesh);
  else {
    yield '        float3[] extent.timeSamples = {\n';
    yield { prim: index, attribute: 'extent' };
    yield '        }\n';
  }
  yield '    }\n';
}

function meshOf(corners: Float32Array): string {
  const count = corners.length / 3;
  const list = (n: number, of: (i: number) => string): string =>
    Array.from({ length: n }, (_, i) => of(i)).join(', ');
  return `        def Mesh "Mesh"
        {
            int[] faceVertexCounts = [${list(count / 3, () => '3')}]
            int[] faceVertexIndices = [${list(count, String)}]
            point3f[] points = [${list(count, (i) => triple(corners, 3 * i))}]
            uniform token subdivisionScheme = "none"
        }
`;
}

/** The same once more at another place. Rows of matrices are those of a vector that stands on their left. */
function copyOf(prim: UsdPrim, name: string, n: number, m: Matrix, root: string): string {
  const row = (k: number): string =>
    `(${[m[k], m[4 + k], m[8 + k], k === 3 ? 1 : 0].map(String).join(', ')})`;
  return `    def ${typeOf(prim)} "${name}_copy_${String(n)}" (
        prepend references = </${root}/${name}>
    )
    {
        matrix4d xformOp:transform = ( ${[0, 1, 2, 3].map(row).join(', ')} )
        uniform token[] xformOpOrder = ["xformOp:transform"]
    }
`;
}
