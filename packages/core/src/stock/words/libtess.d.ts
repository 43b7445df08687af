/** The part of the tessellator that is used here: a port of that of the OpenGL Utility Library. */
declare module 'libtess' {
  export class GluTesselator {
    gluTessProperty(which: number, value: number | boolean): void;
    gluTessNormal(x: number, y: number, z: number): void;
    gluTessCallback(which: number, call: (...args: never[]) => unknown): void;
    gluTessBeginPolygon(data: unknown): void;
    gluTessBeginContour(): void;
    gluTessVertex(place: number[], data: unknown): void;
    gluTessEndContour(): void;
    gluTessEndPolygon(): void;
  }
  export const gluEnum: Record<
    | 'GLU_TESS_WINDING_RULE'
    | 'GLU_TESS_BOUNDARY_ONLY'
    | 'GLU_TESS_BEGIN'
    | 'GLU_TESS_VERTEX'
    | 'GLU_TESS_END'
    | 'GLU_TESS_COMBINE'
    | 'GLU_TESS_EDGE_FLAG',
    number
  >;
  export const windingRule: { GLU_TESS_WINDING_NONZERO: number };
}
