export * from './along'
export * from './beside'
export * from './sweep'
