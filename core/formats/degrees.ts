import { exact } from '@tidytrail/core/geometry'

/** Half the longer axis of the earth, metres, and the square of its eccentricity (WGS 84). */
const EARTH_A = 6_378_137
const EARTH_E2 = 0.006_694_379_990_14

/** Metres a radian of longitude and of latitude are long at a latitude in degrees, on the ellipsoid of WGS 84. */
export function metresPerRadian(latitude: number): { east: number; north: number } {
  const rad = (latitude * Math.PI) / 180
  const s = exact.sin(rad)
  const w = Math.sqrt(1 - EARTH_E2 * s * s)
  return { east: (EARTH_A / w) * exact.cos(rad), north: (EARTH_A * (1 - EARTH_E2)) / (w * w * w) }
}
