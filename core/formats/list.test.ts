import { encode } from 'fast-png'
import { expect, it } from 'vitest'
import { ENDINGS, formatsOf, FORMATS } from '.'

const nothing = new Uint8Array()
const text = (words: string) => new TextEncoder().encode(words)
const png = (depth: 8 | 16, channels: 1 | 3) => {
  const data = depth === 16 ? new Uint16Array(4 * channels) : new Uint8Array(4 * channels)
  return encode({ width: 2, height: 2, depth, channels, data })
}

it('tells a file by its ending, in small letters or large', () => {
  expect(formatsOf('quay.GLB', nothing).map((f) => f.id)).toEqual(['gltf'])
  expect(formatsOf('heights.of.the.quay.asc', text('ncols 3')).map((f) => f.id)).toEqual(['asc'])
  expect(formatsOf('plan.jpeg', nothing).map((f) => f.id)).toEqual(['picture'])
})

it('looks into a picture: one of 16 grey bits may be heights, and all may be traced', () => {
  expect(formatsOf('h.png', png(16, 1)).map((f) => f.id)).toEqual(['png', 'picture'])
  expect(formatsOf('h.png', png(8, 3)).map((f) => f.id)).toEqual(['picture', 'png'])
})

it('believes an ending that stands for much else only where the file begins as it must', () => {
  for (const name of ['a.txt', 'a.ag', 'a.GRD'])
    expect(formatsOf(name, text('NCOLS 4\nNROWS 3')).map((f) => f.id)).toEqual(['asc'])
  expect(() => formatsOf('notes.txt', text('dear all'))).toThrow('no height map (Esri ASCII grid)')
})

it('says which endings there are for what it does not know', () => {
  expect(() => formatsOf('quay.xyz', nothing)).toThrow(/end in \.glb, .* or \.jpeg/)
  expect(() => formatsOf('quay', nothing)).toThrow('end in')
})

it('has an id of its own for every format, and no ending but of one of them', () => {
  expect(new Set(FORMATS.map((f) => f.id)).size).toBe(FORMATS.length)
  expect(new Set(ENDINGS).size).toBe(ENDINGS.length)
})
