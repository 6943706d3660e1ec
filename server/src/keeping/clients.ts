import { existsSync } from 'node:fs'
import path from 'node:path'
import { answers, findProgram, installPackages, privateUrl, startDatabase } from '../../../scripts/database.mjs'

export type Say = (line: string) => void

/** A database to work on, and how to leave it as it was found. */
export interface Reached {
  readonly url: string
  stop(): Promise<void>
}

/** The database somebody named, or the private one of a folder, which is started when it does not run. */
export async function reach(env: NodeJS.ProcessEnv, root: string, say: Say): Promise<Reached> {
  if (env.TIDYTRAIL_DATABASE_URL) return { url: env.TIDYTRAIL_DATABASE_URL, stop: async () => {} }
  const dataDir = path.resolve(root, env.TIDYTRAIL_DATA ?? '.data')
  if (existsSync(path.join(dataDir, 'mariadb/secret'))) {
    const url = privateUrl(dataDir)
    if (await answers(new URL(url).searchParams.get('socketPath')!)) return { url, stop: async () => {} }
  }
  return startDatabase(dataDir, { say })
}

/** The same server and account, another database in it. */
export function beside(url: string, name: string): string {
  const at = new URL(url)
  at.pathname = `/${name}`
  return at.href
}

export const nameOf = (url: string): string => decodeURIComponent(new URL(url).pathname.slice(1))

/** How MariaDB's clients are told where a database is; the password goes by the environment, which only its owner can read. */
export function clientOf(url: string): { args: string[]; env: NodeJS.ProcessEnv } {
  const at = new URL(url)
  const socket = at.searchParams.get('socketPath')
  return {
    args: [
      '--no-defaults',
      `--user=${decodeURIComponent(at.username)}`,
      ...(socket ? [`--socket=${socket}`] : [`--host=${at.hostname}`, `--port=${at.port || 3306}`, '--protocol=tcp']),
      '--default-character-set=utf8mb4',
      '--max-allowed-packet=256M',
    ],
    env: { ...process.env, MYSQL_PWD: decodeURIComponent(at.password) },
  }
}

/** The path of one of MariaDB's clients, installed if need be. */
export async function clientProgram(program: string, say: Say): Promise<string> {
  if (!findProgram(program)) await installPackages(['mariadb-client'], say)
  const found = findProgram(program)
  if (!found) throw new Error(`mariadb-client is installed, but ${program} is missing`)
  return found
}

/** The last line a program printed. */
export const lastLine = (output: string): string => output.trim().split('\n').pop() ?? ''
