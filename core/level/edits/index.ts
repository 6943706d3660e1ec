export * from './assign-route'
export * from './ground'
export * from './level'
export * from './link'
export * from './rank'
export { driveOn, takeApart } from './road'
export * from './route'
export {
  closeAtStart,
  extractStops,
  joinRoutes,
  orderStops,
  retargetStop,
  splitRoute,
  swapStops,
  turnStart,
} from './shape'
export { mergeWaypoints, reshape, separateWaypoint } from './share'
export * from './thing'
export * from './waypoint'
