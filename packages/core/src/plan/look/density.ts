/**
 * Factors that make up for more or fewer particles, so that the picture keeps its light: count × size² ×
 * opacity stays the same. More of them get smaller and fainter, fewer of them only larger, for
 * opacity ends at 1. Links grow shorter with the distance between neighbours, as the cube root.
 */
export interface Density {
  count: number;
  size: number;
  opacity: number;
  /** Radius of links. */
  reach: number;
  /** Width of links, for links × reach × width to stay. */
  width: number;
}

export function densityOf(density: number): Density {
  const more = density > 1;
  const reach = density ** (-1 / 3);
  const size = density ** (more ? -0.375 : -0.5);
  const opacity = density ** (more ? -0.25 : 0);
  // Links show the particle's size and opacity too.
  return { count: density, size, opacity, reach, width: 1 / (density * reach * size * opacity) };
}
