/** Greatest numbers of things in one level. */
export const LIMITS = {
  waypoints: 200_000,
  things: 50_000,
  spawnCount: 5_000,
  textLength: 4_000,
  nameLength: 200,
  coordinateM: 100_000,
  heightSamples: 16_000_000,
  /** Shortest and longest side of a sheet, metres, and how often the one may go into the other. */
  shortestSideM: 1,
  longestSideM: 20_000,
  sideRatio: 1_000,
  /** Columns a reach map of the whole sheet may have: the browser would run out of memory with more. */
  columns: 60_000_000,
  /** Half the width and the height of the largest body, metres. */
  bodyRadiusM: 50,
  bodyHeightM: 500,
} as const
