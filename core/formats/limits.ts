/** Greatest sizes of what is read. What is beyond them is refused before memory is spent on it. */
export const FORMAT_LIMITS = {
  fileBytes: 256 * 1024 * 1024,
  /** Bytes that packed data unpacks to. */
  unpackedBytes: 512 * 1024 * 1024,
  /** Files given together. */
  files: 2_000,
  triangles: 2_000_000,
  vertices: 6_000_000,
  /** Corners of one face of a mesh. */
  faceCorners: 20_000,
  /** Letters of one line of a text format, with the lines it goes on in. */
  lineLetters: 1_000_000,
  nodes: 50_000,
  depth: 64,
  heightSide: 8192,
  heightSamples: 16_000_000,
  pictureSide: 16_384,
  features: 20_000,
  corners: 10_000,
  /** Corners of all features of a file together. */
  cornersInAll: 500_000,
  /** Letters of a pasted list of places. */
  listLetters: 100_000_000,
  /** Metres from the origin, in any direction. */
  coordinateM: 100_000,
} as const
