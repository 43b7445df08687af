import libtess from 'libtess';
import type { Contour } from './contours';

/** The area within contours by the non-zero rule: strokes that lie over each other are one. */
export interface Filled {
  /** x and y of three corners of each triangle, counter-clockwise. */
  triangles: number[];
  /** Its edge as closed lines, what is filled to the left of them. */
  edges: Contour[];
}

export function filled(contours: readonly Contour[]): Filled {
  return { triangles: tessellated(contours, false).flat(), edges: tessellated(contours, true) };
}

function tessellated(contours: readonly Contour[], edges: boolean): Contour[] {
  const { gluEnum, windingRule } = libtess;
  const tess = new libtess.GluTesselator();
  const found: Contour[] = [];
  let open: Contour = [];
  const on = (which: keyof typeof gluEnum, call: (...args: never[]) => unknown): void => {
    tess.gluTessCallback(gluEnum[which], call);
  };
  on('GLU_TESS_BEGIN', () => (open = []));
  on('GLU_TESS_VERTEX', (place: number[]) => open.push(place[0]!, place[1]!));
  on('GLU_TESS_END', () => found.push(open));
  // Where two lines cross there is a place of its own.
  on('GLU_TESS_COMBINE', ([x, y]: number[]) => [x!, y!]);
  // With it, all comes as triangles of their own.
  if (!edges) on('GLU_TESS_EDGE_FLAG', () => undefined);
  tess.gluTessProperty(gluEnum.GLU_TESS_WINDING_RULE, windingRule.GLU_TESS_WINDING_NONZERO);
  tess.gluTessProperty(gluEnum.GLU_TESS_BOUNDARY_ONLY, edges);
  tess.gluTessNormal(0, 0, 1);
  tess.gluTessBeginPolygon(null);
  for (const contour of contours) {
    tess.gluTessBeginContour();
    for (let i = 0; i < contour.length; i += 2) {
      const place = [contour[i]!, contour[i + 1]!, 0];
      tess.gluTessVertex(place, place);
    }
    tess.gluTessEndContour();
  }
  tess.gluTessEndPolygon();
  return found;
}
