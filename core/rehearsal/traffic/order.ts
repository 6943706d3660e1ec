import type { World } from '../world'

/**
 * Who is on which piece of the lanes, from its beginning on: sorted anew at every step, by counting and then within each
 * piece. Who changes lanes is on both. Nothing is allocated but when there are more of them than ever before.
 */
export class Order {
  /** Where the list of each piece begins; that of the last ends where the next would. */
  first = new Uint32Array(2)
  slots = new Uint32Array(0)
  /** How far along its piece each of them is, metres. */
  at = new Float64Array(0)
  pieces = 0
  /** Where in the list of its own piece each is, by slot. */
  place = new Uint32Array(0)

  /** Takes all who are carried along lanes. @returns how many */
  sort(world: World, pieces: number): number {
    const { count, rail, parked, key, piece, pieceM, leaves, leavesM } = world
    if (this.first.length < pieces + 2) this.first = new Uint32Array(pieces * 2 + 2)
    if (this.slots.length < 2 * count) {
      this.slots = new Uint32Array(count * 4)
      this.at = new Float64Array(count * 4)
      this.place = new Uint32Array(count * 4)
    }
    const { first, slots, at, place } = this
    first.fill(0, 0, pieces + 2)
    this.pieces = pieces
    let all = 0
    for (let n = 0; n < count; n++)
      if (key[n] !== 0 && rail[n] === 1 && parked[n] === 0 && piece[n] >= 0) {
        first[piece[n] + 2]++
        if (leaves[n] > 0) first[leaves[n] + 1]++
        all++
      }
    if (all === 0) return 0
    for (let p = 2; p <= pieces + 1; p++) first[p] += first[p - 1]
    for (let n = 0; n < count; n++)
      if (key[n] !== 0 && rail[n] === 1 && parked[n] === 0 && piece[n] >= 0) {
        at[first[piece[n] + 1]] = pieceM[n]
        slots[first[piece[n] + 1]++] = n
        if (leaves[n] === 0) continue
        at[first[leaves[n]]] = leavesM[n]
        slots[first[leaves[n]]++] = n
      }
    for (let p = 0; p < pieces; p++)
      for (let q = first[p] + 1; q < first[p + 1]; q++) {
        const n = slots[q]
        const m = at[q]
        let to = q
        while (to > first[p] && at[to - 1] > m) {
          slots[to] = slots[to - 1]
          at[to] = at[to - 1]
          to--
        }
        slots[to] = n
        at[to] = m
      }
    for (let p = 0; p < pieces; p++)
      for (let q = first[p]; q < first[p + 1]; q++) if (piece[slots[q]] === p) place[slots[q]] = q
    return all
  }

  end(piece: number): number {
    return this.first[piece + 1]
  }

  begin(piece: number): number {
    return this.first[piece]
  }
}
