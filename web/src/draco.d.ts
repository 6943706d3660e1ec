declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
  const make: (options: { wasmBinary: ArrayBuffer }) => Promise<unknown>
  export default make
}
