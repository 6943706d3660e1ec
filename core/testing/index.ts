/** Slow, obvious versions and made-up scenes for tests and benchmarks. Not part of the product. */
export * from './flood'
export * from './gltf'
export * from './meshes'
export * from './scenes'
export * from './visibility'
export * from './mutate'
export * from './small-level'
export * from './route-levels'
