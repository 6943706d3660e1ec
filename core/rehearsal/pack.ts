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

/** Finds rows of a frame by their first number: mostly they lie in the order they are asked for. */
class Rows {
  private next = 0
  private places: Map<number, number> | undefined

  constructor(
    readonly frame: Int32Array,
    private readonly fields: number,
  ) {}

  /** Where the row of a number begins; −1 when there is none. */
  of(key: number): number {
    const { frame, fields } = this
    let at = this.next
    if (frame[at] !== key) {
      if (!this.places) {
        this.places = new Map()
        for (let k = 0; k < frame.length; k += fields) this.places.set(frame[k], k)
      }
      at = this.places.get(key) ?? -1
      if (at < 0) return at
    }
    this.next = at + fields
    return at
  }

  rewind(): void {
    this.next = 0
  }
}

const NO_ROWS = new Int32Array(0)

/**
 * Packs frames of rows of whole numbers, the first of each row being whose it is: what differs from how the row was
 * going on. Rows of frames that follow each other belong together by their first number.
 */
export function packFrames(frames: readonly Int32Array[], fields: number): Uint8Array {
  const out = new Writer()
  out.put(frames.length)
  let last = new Rows(NO_ROWS, fields)
  let lastBut = last
  for (const frame of frames) {
    const rows = frame.length / fields
    out.put(rows)
    let key = 0
    for (let r = 0; r < rows; r++) {
      const k = r * fields
      out.put(frame[k] - key)
      key = frame[k]
      const p = last.of(key)
      if (p < 0) {
        for (let f = 1; f < fields; f++) out.put(frame[k + f])
        continue
      }
      const q = lastBut.of(key)
      let mask = 0
      for (let f = 1; f < fields; f++) {
        if (frame[k + f] !== expected(last.frame, p, lastBut.frame, q, f)) mask |= 1 << (f - 1)
      }
      out.put(mask)
      for (let f = 1; f < fields; f++) {
        if (mask & (1 << (f - 1))) out.put(frame[k + f] - expected(last.frame, p, lastBut.frame, q, f))
      }
    }
    lastBut = last
    lastBut.rewind()
    last = new Rows(frame, fields)
  }
  return out.bytes.slice(0, out.length)
}

function expected(last: Int32Array, p: number, lastBut: Int32Array, q: number, f: number): number {
  return f <= RUNS_ON && q >= 0 ? 2 * last[p + f] - lastBut[q + f] : last[p + f]
}

/** The frames that were packed. */
export function unpackFrames(bytes: Uint8Array, fields: number): Int32Array[] {
  let at = 0
  const take = () => {
    let b = bytes[at++]
    if (b < 0x80) return (b >>> 1) ^ -(b & 1)
    let v = b & 0x7f
    let shift = 7
    do {
      b = bytes[at++]
      v |= (b & 0x7f) << shift
      shift += 7
    } while (b >= 0x80)
    v >>>= 0
    return (v >>> 1) ^ -(v & 1)
  }
  const frames: Int32Array[] = []
  const count = take()
  let last = new Rows(NO_ROWS, fields)
  let lastBut = last
  for (let n = 0; n < count; n++) {
    const rows = take()
    const frame = new Int32Array(rows * fields)
    let key = 0
    for (let r = 0; r < rows; r++) {
      const k = r * fields
      key += take()
      frame[k] = key
      const p = last.of(key)
      if (p < 0) {
        for (let f = 1; f < fields; f++) frame[k + f] = take()
        continue
      }
      const q = lastBut.of(key)
      const mask = take()
      for (let f = 1; f < fields; f++) {
        const e = expected(last.frame, p, lastBut.frame, q, f)
        frame[k + f] = mask & (1 << (f - 1)) ? e + take() : e
      }
    }
    frames.push(frame)
    lastBut = last
    lastBut.rewind()
    last = new Rows(frame, fields)
  }
  return frames
}
