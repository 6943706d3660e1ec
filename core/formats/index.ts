export * from './error'
export type { Format, FormatOf } from './format'
export * from './limits'
export * from './list'
export { readEsriAscii } from './esri-ascii/read'
export * from './geojson/make'
export { fromMercator, isMercator, readGeoJson, type GeoFeature, type GeoFrame, type GeoRead } from './geojson/read'
export { readChains } from './gltf/chains'
export { readGltf } from './gltf/read'
export { readHeightPng } from './height-png/read'
export { CHANNELS, HOLES, stretch, type HeightsOptions, type HeightsRead } from './heights'
export type { MeshOptions, MeshRead } from './mesh-cleaning'
export { readObj } from './obj/read'
export { readOsm } from './osm/read'
export { readOpenDrive } from './opendrive/read'
export * from './lane-writers'
export { pictureHead, type PictureHead } from './picture/read'
export {
  FIELDS,
  MOST_ROWS,
  placesOf,
  readCoordinates,
  type CoordinateRow,
  type CoordinateTable,
  type Field,
} from './coordinates/read'
export { plainly } from './plainly'
export { textOf } from './text'
export * from './beside'
export * from './bundle'
