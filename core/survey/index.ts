export * from './relations'
export * from './survey'
export { type TileAid, type TileAnswer } from './tile-queue'
