export * from './along'
export * from './sweep'
