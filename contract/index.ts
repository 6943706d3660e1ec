export * from './levels'
export * from './openapi'
export * from './problem'
export * from './reports'
