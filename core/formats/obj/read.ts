import earcut from 'earcut'
import { FormatError } from '../error'
import { FORMAT_LIMITS } from '../limits'
import { MeshGatherer, type MeshOptions, type MeshRead } from '../mesh-cleaning'

/**
 * Triangles from a Wavefront OBJ file: vertices and faces, whatever their groups and materials. Read by hand, line by
 * line, since a fault has to be told with its line, which the general readers do not.
 * @throws FormatError naming the line
 */
export function readObj(text: string, options: MeshOptions): MeshRead {
  const gather = new MeshGatherer(options)
  const plain: number[] = []
  const corner: number[] = []
  let start = 0
  let faces = false
  let comesBack = 0
  for (let line = 1; start <= text.length; line++) {
    let end = text.indexOf('\n', start)
    if (end < 0) end = text.length
    // A backslash at the end goes on in the next line.
    let words = text.slice(start, end).trim()
    while (words.endsWith('\\') && end < text.length) {
      const next = text.indexOf('\n', end + 1)
      if (words.length > FORMAT_LIMITS.lineLetters)
        throw new FormatError(
          `line ${line}`,
          `goes on over more than ${FORMAT_LIMITS.lineLetters.toLocaleString('en')} letters`,
        )
      words = `${words.slice(0, -1)} ${text.slice(end + 1, next < 0 ? text.length : next).trim()}`
      end = next < 0 ? text.length : next
    }
    start = end + 1
    const at = () => `line ${line}`
    if (words.startsWith('v ') || words.startsWith('v\t')) {
      const parts = words.split(/\s+/, 9)
      if (parts.length < 4)
        throw new FormatError(at(), `a vertex needs three coordinates, and this has ${parts.length - 1}`)
      const [x, y, z] = [Number(parts[1]), Number(parts[2]), Number(parts[3])]
      gather.vertex(x, y, z, at)
      plain.push(x, y, z)
    } else if (words.startsWith('f ') || words.startsWith('f\t')) {
      const parts = words.split(/\s+/, FORMAT_LIMITS.faceCorners + 2)
      if (parts.length > FORMAT_LIMITS.faceCorners + 1)
        throw new FormatError(
          at(),
          `a face may have ${FORMAT_LIMITS.faceCorners.toLocaleString('en')} corners, and this has more`,
        )
      faces = true
      corner.length = 0
      for (let k = 1; k < parts.length; k++) {
        const number = Number.parseInt(parts[k], 10)
        const vertex = number < 0 ? gather.vertices + number : number - 1
        if (!(vertex >= 0 && vertex < gather.vertices))
          throw new FormatError(
            at(),
            `the face names vertex ${parts[k].split('/')[0]}, and ${gather.vertices} come before it`,
          )
        corner.push(vertex)
      }
      if (corner.length > 3) dropRepeats(corner)
      if (corner.length > 3 && new Set(corner).size < corner.length) {
        comesBack++
        continue
      }
      if (corner.length < 3) throw new FormatError(at(), `a face needs three corners, and this has ${corner.length}`)
      face(gather, corner, plain, at)
    } else if (/^(call|csh)\b/.test(words)) {
      throw new FormatError(at(), `“${words.split(/\s/)[0]}” runs other files, which is not done`)
    }
  }
  if (!faces && gather.vertices > 0)
    throw new FormatError(
      '',
      `has points only (${gather.vertices.toLocaleString('en')}) and no faces: export it with its faces`,
    )
  const read = gather.finish()
  if (comesBack === 0) return read
  const note = `${comesBack} × a face that comes back to a corner it has been at left out`
  return { ...read, repairs: [...read.repairs, note] }
}

/** Takes a corner that stands several times in a row as one; of a face that is nothing else, three are left. */
function dropRepeats(corners: number[]): void {
  const kept = corners.filter((c, k) => c !== corners[(k + corners.length - 1) % corners.length])
  corners.length = 0
  corners.push(...kept)
  while (corners.length < 3) corners.push(kept[0] ?? 0)
}

/** Cuts a face of any number of corners into triangles, in the plane it lies most flatly in. */
function face(gather: MeshGatherer, corners: readonly number[], plain: readonly number[], at: () => string): void {
  if (corners.length === 3) {
    gather.triangle(corners[0], corners[1], corners[2], at)
    return
  }
  // Newell's normal: sound even when some corners lie on one line.
  const normal = [0, 0, 0]
  for (let k = 0; k < corners.length; k++) {
    const a = corners[k] * 3
    const b = corners[(k + 1) % corners.length] * 3
    for (let d = 0; d < 3; d++) {
      const e = (d + 1) % 3
      const f = (d + 2) % 3
      normal[d] += (plain[a + e] - plain[b + e]) * (plain[a + f] + plain[b + f])
    }
  }
  const size = normal.map(Math.abs)
  const drop = size[0] > size[1] && size[0] > size[2] ? 0 : size[1] > size[2] ? 1 : 2
  const u = (drop + 1) % 3
  const v = (drop + 2) % 3
  const flat = corners.flatMap((c) => [plain[c * 3 + u], plain[c * 3 + v]])
  const flip = normal[drop] < 0
  const cut = earcut(flat)
  for (let k = 0; k < cut.length; k += 3) {
    const [a, b, c] = [cut[k], cut[k + 1], cut[k + 2]]
    const twice =
      (flat[b * 2] - flat[a * 2]) * (flat[c * 2 + 1] - flat[a * 2 + 1]) -
      (flat[b * 2 + 1] - flat[a * 2 + 1]) * (flat[c * 2] - flat[a * 2])
    const keeps = twice > 0 !== flip
    gather.triangle(corners[a], corners[keeps ? b : c], corners[keeps ? c : b], at)
  }
}
