/** Sketches of dials for which words are not enough, by their keys, as lines in a field of 96 by 40. */
export const SKETCHES: Readonly<Record<string, string>> = {
  // How a force grows weaker from its middle.
  falloff: 'M4 36H92M4 36V4M4 8C28 8 40 34 92 35',
  reach:
    'M48 20m-3 0a3 3 0 1 0 6 0a3 3 0 1 0-6 0M48 20H84M80 16l4 4l-4 4M48 20m-36 0a36 18 0 1 0 72 0a36 18 0 1 0-72 0',
  // Ways that begin one after the other.
  stagger: 'M6 8H60M20 16H74M34 24H88M48 32H92M60 5l4 3l-4 3M74 13l4 3l-4 3M88 21l4 3l-4 3',
  // A way that swings out between two places.
  detour: 'M8 20C24 -6 40 46 54 20S80 8 88 20M8 20H88M6 17h4v6h-4zM86 17h4v6h-4z',
  inherit: 'M8 30H40M36 26l4 4l-4 4M40 30L76 12M70 11l6 1l-4 5M40 30H66',
  bounce: 'M4 36H92M8 6L28 36L44 16L58 36L68 27L76 36',
  friction: 'M4 34H92M8 14L30 34H58M54 30l4 4l-4 4',
  spin: 'M48 20m-16 0a16 12 0 1 1 8 11M40 31l-3 -5M40 31l6 -2',
  // Lanes of noise: broad ones, with finer ones over them.
  octaves:
    'M4 14C20 0 32 28 48 14S76 0 92 14M4 32c4-6 7 6 11 0s7-6 11 0s7 6 11 0s7-6 11 0s7 6 11 0s7-6 11 0s7 6 11 0s7-6 11 0',
  hollow:
    'M48 20m-34 0a34 17 0 1 0 68 0a34 17 0 1 0-68 0M48 20m-16 0a16 8 0 1 0 32 0a16 8 0 1 0-32 0',
};
