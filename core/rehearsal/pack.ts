/** Fields 1 to 3 of a row go on as they went from frame to frame; the others stay as they are. */
const RUNS_ON = 3

/** Bytes that grow as they are written. */
class Writer {
  bytes = new Uint8Array(1 << 12)
  length = 0

  /** A whole number in as few bytes as it needs, seven bits each; those near zero are the shortest. */
  put(value: number): void {
    let v = ((value << 1) ^ (value >> 31)) >>> 0
    if (this.length + 5 > this.bytes.length) {
      const grown = new Uint8Array(this.bytes.length * 2)
      grown.set(this.bytes)
      this.bytes = grown
    }
    while (v > 0x7f) {
      this.bytes[this.length++] = (v & 0x7f) | 0x80
      v >>>= 7
    }
    this.bytes[this.length++] = v
  }
}

/**
 * Packs frames of rows of whole numbers, the first of each row being whose it is: what differs from how the row was
 * going on. Rows of frames that follow each other belong together by their first number.
 */
export function packFrames(frames: readonly Int32Array[], fields: number): Uint8Array {
  const out = new Writer()
  out.put(frames.length)
  let before = new Map<number, number>()
  let last = new Int32Array(0)
  let lastBut = new Int32Array(0)
  let beforeLast = new Map<number, number>()
  for (const frame of frames) {
    const rows = frame.length / fields
    out.put(rows)
    const at = new Map<number, number>()
    let key = 0
    for (let r = 0; r < rows; r++) {
      const k = r * fields
      out.put(frame[k] - key)
      key = frame[k]
      at.set(key, k)
      const p = before.get(key)
      const q = beforeLast.get(key)
      if (p === undefined) {
        for (let f = 1; f < fields; f++) out.put(frame[k + f])
        continue
      }
      let mask = 0
      for (let f = 1; f < fields; f++) {
        if (frame[k + f] !== expected(last, p, lastBut, q, f)) mask |= 1 << (f - 1)
      }
      out.put(mask)
      for (let f = 1; f < fields; f++) {
        if (mask & (1 << (f - 1))) out.put(frame[k + f] - expected(last, p, lastBut, q, f))
      }
    }
    lastBut = last
    beforeLast = before
    last = frame as Int32Array<ArrayBuffer>
    before = at
  }
  return out.bytes.slice(0, out.length)
}

function expected(last: Int32Array, p: number, lastBut: Int32Array, q: number | undefined, f: number): number {
  if (f <= RUNS_ON && q !== undefined) return 2 * last[p + f] - lastBut[q + f]
  return last[p + f]
}

/** The frames that were packed. */
export function unpackFrames(bytes: Uint8Array, fields: number): Int32Array[] {
  let at = 0
  const take = () => {
    let v = 0
    let shift = 0
    for (;;) {
      const b = bytes[at++]
      v |= (b & 0x7f) << shift
      if (b < 0x80) break
      shift += 7
    }
    v >>>= 0
    return (v >>> 1) ^ -(v & 1)
  }
  const frames: Int32Array[] = []
  const count = take()
  let before = new Map<number, number>()
  let beforeLast = new Map<number, number>()
  let last = new Int32Array(0)
  let lastBut = new Int32Array(0)
  for (let n = 0; n < count; n++) {
    const rows = take()
    const frame = new Int32Array(rows * fields)
    const now = new Map<number, number>()
    let key = 0
    for (let r = 0; r < rows; r++) {
      const k = r * fields
      key += take()
      frame[k] = key
      now.set(key, k)
      const p = before.get(key)
      const q = beforeLast.get(key)
      if (p === undefined) {
        for (let f = 1; f < fields; f++) frame[k + f] = take()
        continue
      }
      const mask = take()
      for (let f = 1; f < fields; f++) {
        const e = expected(last, p, lastBut, q, f)
        frame[k + f] = mask & (1 << (f - 1)) ? e + take() : e
      }
    }
    frames.push(frame)
    lastBut = last
    beforeLast = before
    last = frame
    before = now
  }
  return frames
}
