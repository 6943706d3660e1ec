/** Files changed at random, to see that a reader of them answers plainly whatever comes. */

export type Chance = () => number

const pick = <T>(random: Chance, list: readonly T[]): T => list[Math.floor(random() * list.length)]

/** Values that stand where others were expected. */
const ODD: readonly (() => unknown)[] = [
  () => null,
  () => [],
  () => ({}),
  () => '',
  () => 'wp_none',
  () => 'x'.repeat(5_000),
  () => -1,
  () => 0,
  () => 1.5,
  () => 4e8,
  () => 1e308,
  () => -1e308,
  () => Number.MAX_SAFE_INTEGER + 2,
  () => true,
  () => [[[[[[]]]]]],
  () => [1, 2, 3],
  () => ({ length: 4e9 }),
  () => ({ toString: 1 }),
  () => '__proto__',
  () => 'NaN',
]

type Keyed = Record<string, unknown>

/** Every holder within a document, with its keys. */
function holders(value: unknown, found: Keyed[] = []): Keyed[] {
  if (typeof value !== 'object' || value === null || found.length > 5_000) return found
  found.push(value as Keyed)
  for (const inside of Object.values(value)) holders(inside, found)
  return found
}

/** A document with one to three of its values replaced, left out, doubled, renamed or moved elsewhere. */
export function mutatedJson(document: unknown, random: Chance): unknown {
  const copy = structuredClone(document)
  for (let n = 1 + Math.floor(random() * 3); n > 0; n--) {
    const holder = pick(random, holders(copy))
    if (!holder) return pick(random, ODD)()
    const keys = Object.keys(holder)
    const key = keys.length > 0 ? pick(random, keys) : 'x'
    const what = random()
    if (what < 0.55) holder[key] = pick(random, ODD)()
    else if (what < 0.7) {
      if (Array.isArray(holder)) holder.splice(Number(key), 1)
      else delete holder[key]
    } else if (what < 0.8)
      holder[Array.isArray(holder) ? '0' : pick(random, ['x', 'length', 'constructor', 'at', '0', 'version'])] =
        holder[key]
    else if (what < 0.9) holder[key] = structuredClone(pick(random, holders(copy)))
    else if (Array.isArray(holder)) holder.push(structuredClone(holder[Number(key)]))
    else if (typeof holder[key] === 'number') holder[key] = -(holder[key] as number) * 1e6
  }
  return copy
}

/** A text with letters, words or lines of it changed, doubled, left out or cut off. */
export function mutatedText(text: string, random: Chance): string {
  let out = text
  for (let n = 1 + Math.floor(random() * 3); n > 0; n--) {
    const at = Math.floor(random() * out.length)
    const end = at + 1 + Math.floor(random() * 20)
    const what = random()
    if (what < 0.3)
      out =
        out.slice(0, at) +
        pick(random, ['-', '1e999', 'NaN', '\\', '\n', '"', '{', '[', '\0', '9'.repeat(20), 'f 1 2 3', '']) +
        out.slice(end)
    else if (what < 0.5) out = out.slice(0, at) + out.slice(end)
    else if (what < 0.65) out = out.slice(0, end) + out.slice(at)
    else if (what < 0.8) out = out.slice(0, at)
    else if (what < 0.9) {
      const lines = out.split('\n')
      lines.splice(Math.floor(random() * lines.length), 1, pick(random, lines))
      out = lines.join('\n')
    } else out = out.slice(0, at) + String.fromCharCode(Math.floor(random() * 0xffff)) + out.slice(at + 1)
  }
  return out
}

/** Bytes of which some are changed, doubled, left out or cut off. */
export function mutatedBytes(bytes: Uint8Array, random: Chance): Uint8Array<ArrayBuffer> {
  let out = Uint8Array.from(bytes)
  for (let n = 1 + Math.floor(random() * 4); n > 0; n--) {
    const at = Math.floor(random() * out.length)
    const what = random()
    if (what < 0.5) out[at] = Math.floor(random() * 256)
    else if (what < 0.65) out[at] ^= 1 << Math.floor(random() * 8)
    else if (what < 0.8 && at + 4 <= out.length)
      new DataView(out.buffer).setUint32(at, pick(random, [0, 1, 0xffffffff, 0x7fffffff, 65_536]), random() < 0.5)
    else if (what < 0.9) out = out.slice(0, at)
    else {
      const longer = new Uint8Array(out.length + 16)
      longer.set(out.subarray(0, at))
      longer.set(out.subarray(at), at + 16)
      out = longer
    }
    if (out.length === 0) return out
  }
  return out
}
