import { availableParallelism } from 'node:os'
import { z } from 'zod'
import { Room } from './store/room'
import type { Keeping } from './store/upkeep'

const schema = z.object({
  TIDYTRAIL_DATABASE_URL: z
    .string({ error: 'is not set; `npm start` sets it' })
    .regex(/^(mariadb|mysql):\/\//, 'must begin with mariadb://'),
  TIDYTRAIL_HOST: z.string().default('127.0.0.1'),
  TIDYTRAIL_PORT: z.coerce.number().int().min(1).max(65535).default(4380),
  TIDYTRAIL_TOKEN: z.string().min(16, 'must have at least 16 characters').optional(),
  /** Set by the start script: where the private database has its files. */
  TIDYTRAIL_DATABASE_FILES: z.string().optional(),
  TIDYTRAIL_RESERVE_MB: z.coerce.number().min(0).default(256),
  /** Threads that do jobs; 0 for none in this process. */
  TIDYTRAIL_JOB_THREADS: z.coerce
    .number()
    .int()
    .min(0)
    .max(64)
    .default(Math.max(1, availableParallelism() - 1)),
  TIDYTRAIL_HOSTS: z.string().default(''),
  TIDYTRAIL_KEEP_DELETED_DAYS: z.coerce.number().min(0).default(30),
  TIDYTRAIL_KEEP_HISTORY_DAYS: z.coerce.number().min(1).default(180),
  TIDYTRAIL_LOG: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('warn'),
})

export interface Config {
  databaseUrl: string
  host: string
  port: number
  token: string | undefined
  /** Names this server goes by, beside those of loopback. */
  hosts: string[]
  keeping: Keeping
  room: Room
  jobThreads: number
  logLevel: string
}

const LOOPBACK = new Set(['127.0.0.1', '::1', 'localhost'])

/**
 * The configuration from the environment.
 * @throws Error with one line that names the variable at fault
 */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const result = schema.safeParse(env)
  if (!result.success) {
    const issue = result.error.issues[0]
    throw new Error(`${issue.path.join('.')} ${issue.message}`)
  }
  const c = result.data
  if (!LOOPBACK.has(c.TIDYTRAIL_HOST) && !c.TIDYTRAIL_TOKEN) {
    throw new Error(
      `TIDYTRAIL_HOST is ${c.TIDYTRAIL_HOST}, but other machines are let in only with an access token: set TIDYTRAIL_TOKEN`,
    )
  }
  return {
    databaseUrl: c.TIDYTRAIL_DATABASE_URL,
    host: c.TIDYTRAIL_HOST,
    port: c.TIDYTRAIL_PORT,
    token: c.TIDYTRAIL_TOKEN,
    hosts: [...c.TIDYTRAIL_HOSTS.split(','), c.TIDYTRAIL_HOST].map((h) => h.trim()).filter((h) => h !== ''),
    keeping: { deletedDays: c.TIDYTRAIL_KEEP_DELETED_DAYS, historyDays: c.TIDYTRAIL_KEEP_HISTORY_DAYS },
    room: new Room(c.TIDYTRAIL_DATABASE_FILES, c.TIDYTRAIL_RESERVE_MB * 2 ** 20),
    jobThreads: c.TIDYTRAIL_JOB_THREADS,
    logLevel: c.TIDYTRAIL_LOG,
  }
}
