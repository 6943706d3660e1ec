import { FormatError } from '../error'
import { lineOf, readXml, type XmlTag } from '../xml'

/** An element of a file with those in it. */
export interface Element extends XmlTag {
  readonly parts: readonly Element[]
}

/** Reads a whole file as a tree. @throws FormatError with the line */
export function treeOf(text: string): Element {
  const open: { tag: XmlTag; parts: Element[] }[] = []
  let root: Element | undefined
  readXml(
    text,
    (tag) => {
      open.push({ tag, parts: [] })
    },
    () => {
      const { tag, parts } = open.pop()!
      const element = { ...tag, parts }
      if (open.length > 0) open[open.length - 1].parts.push(element)
      else root = element
    },
  )
  if (!root) throw new FormatError('', 'has nothing in it')
  return root
}

export const partsNamed = (of: Element | undefined, name: string): readonly Element[] =>
  of?.parts.filter((p) => p.name === name) ?? []
export const partNamed = (of: Element | undefined, name: string): Element | undefined =>
  of?.parts.find((p) => p.name === name)

/** A number an element says. @param instead what it is where it says none; without one it has to @throws FormatError */
export function numberOf(of: Element, key: string, instead?: number): number {
  const text = of.attributes[key]
  if (text === undefined || text === '') {
    if (instead !== undefined) return instead
    throw new FormatError(lineOf(of), `a <${of.name}> has no ${key}`)
  }
  const value = Number(text)
  if (!Number.isFinite(value)) throw new FormatError(lineOf(of), `the ${key} of a <${of.name}> is no number: ${text.slice(0, 40)}`) // prettier-ignore
  return value
}
