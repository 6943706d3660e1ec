import { readdirSync, readFileSync } from 'node:fs'
import { commandLine, isAlive } from '../../scripts/processes.mjs'

/** Every process that runs, other than this one. */
const all = (): number[] =>
  readdirSync('/proc')
    .map(Number)
    .filter((pid) => pid > 0 && pid !== process.pid && isAlive(pid))

/** What a process has under a name in `/proc`, or nothing when it has just ended. */
function told(pid: number, name: string): string {
  try {
    return readFileSync(`/proc/${pid}/${name}`, 'utf8')
  } catch {
    return ''
  }
}

/** The processes a process has started. */
export function childrenOf(parent: number): number[] {
  return all().filter((pid) => {
    const stat = told(pid, 'stat')
    // After the name in brackets come the state and the parent.
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1] === String(parent)
  })
}

/** Processes that have a folder in their words or their environment. */
export const processesOf = (folder: string): number[] =>
  all().filter((pid) => (told(pid, 'cmdline') + told(pid, 'environ')).includes(folder))

/** A process as it is told of. */
export const named = (pid: number): string => `${pid} ${commandLine(pid).join(' ').slice(0, 120)}`
