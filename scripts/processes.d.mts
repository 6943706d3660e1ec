import type { Readable, Writable } from 'node:stream'
export function isAlive(pid: number): boolean
export function commandLine(pid: number): string[]
export function end(pid: number, graceMs: number): Promise<void>
export function pause(ms: number): Promise<void>
export function takeLock(
  name: string,
): Promise<{ held: true; release: () => Promise<void> } | { held: false; by: number }>
export function run(
  program: string,
  args: string[],
  options?: {
    cwd?: string
    env?: NodeJS.ProcessEnv
    signal?: AbortSignal
    stdin?: Readable
    stdout?: Writable
  },
): Promise<{ status: number | null; output: string }>
