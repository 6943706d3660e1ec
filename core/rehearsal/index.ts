export * from './judge'
export * from './recording'
export * from './rehearsal'
export * from './world'
