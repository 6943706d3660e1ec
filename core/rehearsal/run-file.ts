import { LevelError, assertTame, errorOf, readLevel, type Level } from '@tidytrail/core/level'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { z } from 'zod'
import { EVENTS, type AgentEvent } from './events'
import { VERDICTS, type Verdict } from './judge'
import type { RecordedAgent } from './recorded'
import { FIELDS, type Chunk } from './recording'

/** A recorded rehearsal as a file: a zip of what is known of it as JSON, and of its packed frames one after the other. */
export interface RunFile {
  readonly name: string
  /** The level it is of, as it was at its end; and which revision that was, 0 where it was not kept. */
  readonly level: Level
  readonly revision: number
  readonly seed: number
  readonly seconds: number
  readonly stepS: number
  readonly hash: string
  readonly agents: readonly RecordedAgent[]
  readonly events: readonly AgentEvent[]
  readonly routes: readonly string[]
  readonly posts: readonly string[]
  readonly profiles: readonly string[]
  readonly verdicts: readonly Verdict[]
  readonly chunks: readonly Chunk[]
}

const FORMAT = 'tidytrail-run'
const VERSION = 1
/** A file may have so many bytes packed, and so many unpacked. */
export const MOST_RUN_BYTES = 256 * 1024 * 1024
const MOST_UNPACKED = 1024 * 1024 * 1024

const text = z.string().max(1000)
const ids = z.array(text).max(1_000_000)
const number = z.number()
const agentSchema = z.object({
  key: z.number().int(),
  id: text,
  name: text,
  spawnerId: text,
  profileId: text,
  factionId: text.nullable(),
  briefId: text.nullable(),
  standIn: z.boolean(),
  appearedS: number,
  leftS: number.optional(),
})
const verdictSchema = z.object({
  key: number,
  agent: text,
  name: text,
  spawnerId: text,
  route: text.nullable(),
  routeName: text.nullable(),
  verdict: z.enum(VERDICTS),
  crossTrack: z.object({ rms: number, p95: number, max: number }),
  stops: z.object({ made: number, missed: number, due: number }),
  legs: z.object({ tookS: number, expectedS: number }),
  longestStuckS: number,
  overlapS: number,
  reasons: z.array(text),
  excused: z.boolean().optional(),
  dueS: number.nullable().optional(),
})
const headSchema = z.object({
  format: z.literal(FORMAT, { error: 'is not that of a rehearsal' }),
  version: z.literal(VERSION, { error: `is not one this program reads: it reads ${VERSION}` }),
  name: text,
  revision: z.number().int().min(0),
  seed: z.number().int().min(0).max(0x7fffffff),
  seconds: z.number().min(0).max(7200),
  stepS: z.number().gt(0).max(1),
  hash: z.string().max(32),
  fields: z.array(text),
  kinds: z.array(text),
  agents: z.array(agentSchema).max(1_000_000),
  /** Step, key, number of its kind, three figures, route. */
  events: z.array(z.array(number).length(7)).max(2_000_000),
  routes: ids,
  posts: ids,
  profiles: ids,
  verdicts: z.array(verdictSchema).max(1_000_000),
  /** First frame, how many, and bytes of each stretch of frames. */
  chunks: z
    .array(z.tuple([z.number().int().min(0), z.number().int().min(1).max(10_000), z.number().int().min(1)]))
    .max(1_000_000),
})

/** A rehearsal as the bytes of a file. */
export function writeRunFile({ level, chunks, events, ...run }: RunFile): Uint8Array<ArrayBuffer> {
  const kinds = new Map(EVENTS.map((kind, k) => [kind, k]))
  const head = {
    format: FORMAT,
    version: VERSION,
    ...run,
    fields: FIELDS,
    kinds: EVENTS,
    events: events.map((e) => [e.step, e.key, kinds.get(e.kind)!, e.a, e.b, e.c, e.route]),
    chunks: chunks.map((c) => [c.first, c.count, c.bytes.length]),
  }
  const frames = new Uint8Array(chunks.reduce((n, c) => n + c.bytes.length, 0))
  let at = 0
  for (const { bytes } of chunks) {
    frames.set(bytes, at)
    at += bytes.length
  }
  return zipSync(
    { 'run.json': strToU8(JSON.stringify(head)), 'level.json': strToU8(JSON.stringify(level)), 'frames.bin': frames },
    { level: 6, mtime: '1980-01-01T00:00:00' },
  ) as Uint8Array<ArrayBuffer>
}

const bad = (at: string, why: string) => new LevelError('not-valid', at, why)

/**
 * A rehearsal from the bytes of a file.
 * @throws LevelError that says where the first fault is; nothing is half read
 */
export function readRunFile(bytes: Uint8Array): RunFile {
  if (bytes.length > MOST_RUN_BYTES)
    throw new LevelError('too-large', '', `has ${Math.round(bytes.length / 1e6)} MB, too large to be read`)
  const parts = unzipped(bytes)
  const head = headSchema.safeParse(json(parts, 'run.json'))
  if (!head.success) throw errorOf(head.error, ['run.json'])
  const { fields, kinds, events, chunks, format: _format, version: _version, ...run } = head.data
  if (fields.join() !== FIELDS.join())
    throw bad('run.json.fields', 'were recorded by another version of this program, and cannot be shown by this one')
  const level = readLevel(json(parts, 'level.json'))
  const frames = parts['frames.bin']
  if (!frames) throw bad('frames.bin', 'is missing')
  const known = new Map<string, AgentEvent['kind']>(EVENTS.map((kind) => [kind, kind]))
  let at = 0
  let next = 0
  const cut = chunks.map(([first, count, length], k): Chunk => {
    if (first !== next || at + length > frames.length)
      throw bad(`run.json.chunks.${k}`, 'does not follow the one before, or is cut off')
    next += count
    at += length
    return { first, count, bytes: frames.slice(at - length, at) }
  })
  return {
    ...run,
    level,
    agents: run.agents.map((a) => ({ ...a, leftS: a.leftS })),
    events: events.map(([step, key, kind, a, b, c, route], k) => {
      const name = known.get(kinds[kind])
      if (name === undefined) throw bad(`run.json.events.${k}`, 'is of no kind this program knows')
      return { step, key, kind: name, a, b, c, route }
    }),
    chunks: cut,
  }
}

function unzipped(bytes: Uint8Array): Record<string, Uint8Array | undefined> {
  let size = 0
  try {
    return unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!['run.json', 'level.json', 'frames.bin'].includes(name)) return false
        size += originalSize
        if (size > MOST_UNPACKED) throw new LevelError('too-large', name, 'is too large to be read')
        return true
      },
    })
  } catch (error) {
    if (error instanceof LevelError) throw error
    throw new LevelError('wrong-format', '', 'this is not a kept rehearsal: expected a zip file with run.json in it')
  }
}

function json(parts: Record<string, Uint8Array | undefined>, name: string): unknown {
  const part = parts[name]
  if (!part) throw bad(name, 'is missing')
  let value: unknown
  try {
    value = JSON.parse(strFromU8(part))
  } catch {
    throw bad(name, 'is not JSON')
  }
  // A recording may hold far more than a level: what may not be in it at all is looked for.
  if (name === 'level.json') assertTame(value, name)
  return value
}
