export * from './relations'
export * from './survey'
