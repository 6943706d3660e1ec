/** Gaps in a square's rim narrower than this are none, metres. */
const LEAST_GAP_M = 2e-3
/** Steps of the search for a place two lines are both near to: each narrows it by 0.618. */
const NARROWINGS = 26

/** A stretch of one side of a square that is free: side as in DIR_X, from and to along it in metres, and its part. */
export interface FreeSide {
  readonly side: number
  readonly from: number
  readonly to: number
  readonly part: number
}

/** The free parts of one square: for each a place in it, and where it can be entered. */
export interface FreeParts {
  /** x, y of a free place in each part. */
  readonly places: readonly number[]
  readonly sides: readonly FreeSide[]
}

const NOWHERE: FreeParts = { places: [], sides: [] }

/** Blocked stretches of the rim, from and to in sides anticlockwise from the lower right corner, and the line they are of. */
const arcs: { from: number; to: number; line: number }[] = []
let group = new Int32Array(256)
const find = (k: number): number => {
  while (group[k] !== k) k = group[k] = group[group[k]]
  return k
}

/**
 * What is left of a square when everything nearer to some lines than a radius is taken out, and which stretches of its
 * rim hang together inside it. Exact: a line grown by a radius and cut by a square is convex, so what is blocked hangs
 * together where two such pieces touch, and two gaps in the rim are parted just when something blocked that hangs
 * together touches the rim on both sides between them.
 * @param lines ax, ay, bx, by of each of `count` lines
 * @returns undefined when the whole square is free
 */
export function freeParts(
  x0: number,
  y0: number,
  sizeM: number,
  lines: ArrayLike<number>,
  count: number,
  radiusM: number,
): FreeParts | undefined {
  arcs.length = 0
  const n = count
  if (n > group.length) group = new Int32Array(n * 2)
  const middleX = x0 + sizeM / 2
  const middleY = y0 + sizeM / 2
  const m0 = nearest(lines, n, middleX, middleY)
  if (m0 >= radiusM + sizeM * Math.SQRT1_2) return undefined
  if (m0 < radiusM - sizeM * Math.SQRT1_2) return NOWHERE
  for (let k = 0; k < n; k++) {
    group[k] = k
    for (let side = 0; side < 4; side++) {
      if (!blockedOn(side, x0, y0, sizeM, lines, k, radiusM)) continue
      // Anticlockwise the north and west sides run backwards.
      const from = side === 1 || side === 2 ? 1 - span[1] : span[0]
      const to = side === 1 || side === 2 ? 1 - span[0] : span[1]
      arcs.push({ from: side + from, to: side + to, line: k })
    }
  }
  if (arcs.length === 0) return undefined
  arcs.sort((p, q) => p.from - q.from)
  const least = LEAST_GAP_M / sizeM
  // Blocked stretches run together; the one over the start is put at the end.
  const blocked: { from: number; to: number; of: number }[] = []
  for (const arc of arcs) {
    const last = blocked.at(-1)
    if (last && arc.from <= last.to + least) {
      last.to = Math.max(last.to, arc.to)
      group[find(arc.line)] = find(last.of)
    } else blocked.push({ from: arc.from, to: arc.to, of: arc.line })
  }
  const first = blocked[0]
  const last = blocked.at(-1)!
  if (first.from + 4 <= last.to + least) {
    group[find(first.of)] = find(last.of)
    if (blocked.length === 1) return NOWHERE
    last.to = first.to + 4
    blocked.shift()
  }
  const m = blocked.length
  if (m > 1) joinInside(x0, y0, sizeM, lines, radiusM)
  // Gap k lies between blocked stretch k and the next.
  const part = new Int32Array(m).fill(-1)
  const gapTo = (k: number) => (k + 1 < m ? blocked[k + 1].from : blocked[0].from + 4)
  let parts = 0
  for (let k = 0; k < m; k++) {
    for (let p = 0; p < k && part[k] < 0; p++) if (!parted(blocked, p, k)) part[k] = part[p]
    if (part[k] < 0) part[k] = parts++
  }
  const sides: FreeSide[] = []
  const places = new Array<number>(parts * 2)
  const longest = new Float64Array(parts)
  for (let k = 0; k < m; k++) {
    const from = blocked[k].to
    const to = gapTo(k)
    for (let q = Math.floor(from); q < to; q++) {
      const a = Math.max(from, q) - q
      const b = Math.min(to, q + 1) - q
      if (b <= a) continue
      const side = q % 4
      const base = side % 2 === 0 ? y0 : x0
      const back = side === 1 || side === 2
      sides.push({
        side,
        from: base + sizeM * (back ? 1 - b : a),
        to: base + sizeM * (back ? 1 - a : b),
        part: part[k],
      })
    }
    if (to - from <= longest[part[k]]) continue
    longest[part[k]] = to - from
    rimPlace((from + to) / 2, x0, y0, sizeM, places, part[k] * 2)
  }
  if (parts === 1 && m0 >= radiusM) {
    places[0] = middleX
    places[1] = middleY
  }
  return { places, sides }
}

/** Are two gaps in the rim cut off from each other? */
function parted(blocked: readonly { of: number }[], p: number, k: number): boolean {
  for (let a = p + 1; a <= k; a++) {
    const of = find(blocked[a].of)
    for (let b = k + 1; b <= p + blocked.length; b++) if (find(blocked[b % blocked.length].of) === of) return true
  }
  return false
}

/** A place on the rim, a hair inside it. */
function rimPlace(at: number, x0: number, y0: number, sizeM: number, out: number[], n: number): void {
  const side = Math.floor(at) % 4
  const share = at - Math.floor(at)
  const in1 = 1e-4
  const u = Math.min(1 - in1, Math.max(in1, share))
  out[n] = x0 + sizeM * (side === 0 ? 1 - in1 : side === 1 ? 1 - u : side === 2 ? in1 : u)
  out[n + 1] = y0 + sizeM * (side === 0 ? u : side === 1 ? 1 - in1 : side === 2 ? 1 - u : in1)
}

const span = new Float64Array(2)

/** The share of a square's side within a radius of a line, from and to in `span`; false when there is none. */
function blockedOn(
  side: number,
  x0: number,
  y0: number,
  sizeM: number,
  lines: ArrayLike<number>,
  k: number,
  radiusM: number,
): boolean {
  // Turned so that the side lies along u at v = 0.
  const upright = side === 0 || side === 2
  const edge = side === 0 ? x0 + sizeM : side === 1 ? y0 + sizeM : side === 2 ? x0 : y0
  const start = upright ? y0 : x0
  const ax = (upright ? lines[k * 4 + 1] : lines[k * 4]) - start
  const av = (upright ? lines[k * 4] : lines[k * 4 + 1]) - edge
  const bx = (upright ? lines[k * 4 + 3] : lines[k * 4 + 2]) - start
  const bv = (upright ? lines[k * 4 + 2] : lines[k * 4 + 3]) - edge
  let from = Infinity
  let to = -Infinity
  const r2 = radiusM * radiusM
  if (av * av < r2) {
    const w = Math.sqrt(r2 - av * av)
    from = Math.min(from, ax - w)
    to = Math.max(to, ax + w)
  }
  if (bv * bv < r2) {
    const w = Math.sqrt(r2 - bv * bv)
    from = Math.min(from, bx - w)
    to = Math.max(to, bx + w)
  }
  // The band along the line: |cross| < r · length, and beside the line itself.
  const du = bx - ax
  const dv = bv - av
  const length2 = du * du + dv * dv
  if (length2 > 0) {
    let low = -Infinity
    let high = Infinity
    // cross(u) = du · (0 − av) − dv · (u − ax)
    const reach = radiusM * Math.sqrt(length2)
    if (dv === 0) {
      if (Math.abs(du * av) >= reach) low = Infinity
    } else {
      const p = ax + (-du * av - reach) / dv
      const q = ax + (-du * av + reach) / dv
      low = Math.max(low, Math.min(p, q))
      high = Math.min(high, Math.max(p, q))
    }
    // 0 ≤ (u − ax) · du − av · dv ≤ length²
    if (du === 0) {
      const dot = -av * dv
      if (dot < 0 || dot > length2) low = Infinity
    } else {
      const p = ax + (av * dv) / du
      const q = ax + (av * dv + length2) / du
      low = Math.max(low, Math.min(p, q))
      high = Math.min(high, Math.max(p, q))
    }
    if (low < high) {
      from = Math.min(from, low)
      to = Math.max(to, high)
    }
  }
  if (to <= 0 || from >= sizeM) return false
  span[0] = Math.max(0, from / sizeM)
  span[1] = Math.min(1, to / sizeM)
  return span[1] > span[0]
}

/** Lines that are parted on the rim may still meet inside: then what they block hangs together. */
function joinInside(x0: number, y0: number, sizeM: number, lines: ArrayLike<number>, radiusM: number): void {
  const all = [...new Set(arcs.map((a) => a.line))]
  for (let p = 0; p < all.length; p++) {
    for (let q = p + 1; q < all.length; q++) {
      if (find(all[p]) === find(all[q])) continue
      if (bothNear(x0, y0, sizeM, lines, all[p], all[q]) < radiusM) group[find(all[p])] = find(all[q])
    }
  }
}

/** The least a place in a square can be from the farther of two lines: a search over a convex function. */
function bothNear(x0: number, y0: number, sizeM: number, lines: ArrayLike<number>, p: number, q: number): number {
  const worst = (x: number, y: number) => Math.max(toLine(lines, p, x, y), toLine(lines, q, x, y))
  const down = (x: number) => least((y) => worst(x, y), y0, y0 + sizeM)
  return least(down, x0, x0 + sizeM)
}

const GOLDEN = (Math.sqrt(5) - 1) / 2

/** Least value of a convex function between two places (golden section search, Kiefer 1953). */
function least(f: (u: number) => number, a: number, b: number): number {
  let c = b - GOLDEN * (b - a)
  let d = a + GOLDEN * (b - a)
  let fc = f(c)
  let fd = f(d)
  for (let k = 0; k < NARROWINGS; k++) {
    if (fc < fd) {
      b = d
      d = c
      fd = fc
      c = b - GOLDEN * (b - a)
      fc = f(c)
    } else {
      a = c
      c = d
      fc = fd
      d = a + GOLDEN * (b - a)
      fd = f(d)
    }
  }
  return Math.min(fc, fd)
}

/** Distance from a place to one of some lines, metres. */
export function toLine(lines: ArrayLike<number>, k: number, x: number, y: number): number {
  const n = k * 4
  const dx = lines[n + 2] - lines[n]
  const dy = lines[n + 3] - lines[n + 1]
  const px = x - lines[n]
  const py = y - lines[n + 1]
  const length2 = dx * dx + dy * dy
  const t = length2 > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / length2)) : 0
  const ex = px - t * dx
  const ey = py - t * dy
  return Math.sqrt(ex * ex + ey * ey)
}

/** Distance from a place to the nearest of some lines, metres. */
export function nearest(lines: ArrayLike<number>, count: number, x: number, y: number): number {
  let best = Infinity
  for (let k = 0; k < count; k++) {
    const m = toLine(lines, k, x, y)
    if (m < best) best = m
  }
  return best
}
