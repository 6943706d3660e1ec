import type { World } from '../world'

/**
 * Who is on which piece of the lanes, from its beginning on: sorted anew at every step, by counting and then within each
 * piece. Nothing is allocated but when there are more of them than ever before.
 */
export class Order {
  /** Where the list of each piece begins; that of the last ends where the next would. */
  first = new Uint32Array(2)
  slots = new Uint32Array(0)
  pieces = 0

  /** Takes all who are carried along lanes. @returns how many */
  sort(world: World, pieces: number): number {
    const { count, rail, key, piece, pieceM } = world
    if (this.first.length < pieces + 2) this.first = new Uint32Array(pieces * 2 + 2)
    if (this.slots.length < count) this.slots = new Uint32Array(count * 2)
    const { first, slots } = this
    first.fill(0, 0, pieces + 2)
    this.pieces = pieces
    let all = 0
    for (let n = 0; n < count; n++)
      if (key[n] !== 0 && rail[n] === 1 && piece[n] >= 0) {
        first[piece[n] + 2]++
        all++
      }
    if (all === 0) return 0
    for (let p = 2; p <= pieces + 1; p++) first[p] += first[p - 1]
    for (let n = 0; n < count; n++) if (key[n] !== 0 && rail[n] === 1 && piece[n] >= 0) slots[first[piece[n] + 1]++] = n
    for (let p = 0; p < pieces; p++)
      for (let q = first[p] + 1; q < first[p + 1]; q++) {
        const n = slots[q]
        let at = q
        while (at > first[p] && pieceM[slots[at - 1]] > pieceM[n]) {
          slots[at] = slots[at - 1]
          at--
        }
        slots[at] = n
      }
    return all
  }

  /** The place in `slots` of the first on a piece that is at a distance or beyond; the end of its list where there is none. */
  from(world: World, piece: number, m: number): number {
    const end = this.first[piece + 1]
    let at = this.first[piece]
    while (at < end && world.pieceM[this.slots[at]] < m) at++
    return at
  }

  end(piece: number): number {
    return this.first[piece + 1]
  }

  begin(piece: number): number {
    return this.first[piece]
  }
}
