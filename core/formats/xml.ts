import { SaxesParser } from 'saxes'
import { FormatError } from './error'
import { FORMAT_LIMITS } from './limits'

/** An element of an XML file as it is come to, with the line it stands in. */
export interface XmlTag {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  readonly line: number
}

/** The place of an element in a file, for what is said of it. */
export const lineOf = ({ line }: XmlTag): string => `line ${line.toLocaleString('en')}`

/** Elements of a file at most. */
const MOST_TAGS = 4_000_000

/**
 * Reads XML from its beginning on, and tells of each element as it begins and ends. Entities a file makes up for itself
 * are never replaced: a file that uses one is refused.
 * @throws FormatError with the line
 */
export function readXml(
  text: string,
  open: (tag: XmlTag, depth: number) => void,
  close?: (name: string) => void,
): void {
  // prettier-ignore
  const parser = new SaxesParser()
  let depth = 0
  let tags = 0
  parser.on('error', (error) => {
    // Its words begin with line and column.
    const found = /^(?:.*?:)?(\d+):(\d+): (.*)$/s.exec(error.message)
    throw new FormatError(
      found ? `line ${Number(found[1]).toLocaleString('en')}` : '',
      `is no XML: ${found ? found[3] : error.message}`,
    )
  })
  parser.on('opentag', ({ name, attributes }) => {
    depth++
    tags++
    const line = parser.line
    if (depth > FORMAT_LIMITS.depth)
      throw new FormatError(`line ${line}`, `its elements lie more than ${FORMAT_LIMITS.depth} deep in each other`)
    if (tags > MOST_TAGS) throw new FormatError(`line ${line}`, `has more than ${MOST_TAGS.toLocaleString('en')} elements`) // prettier-ignore
    open({ name, attributes, line }, depth)
  })
  parser.on('closetag', ({ name }) => {
    depth--
    close?.(name)
  })
  parser.write(text).close()
}
