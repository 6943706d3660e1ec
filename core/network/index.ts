export * from './following'
export * from './legs'
export * from './planner'
export * from './profile'
