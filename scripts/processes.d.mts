export function isAlive(pid: number): boolean
export function commandLine(pid: number): string[]
export function end(pid: number, graceMs: number): Promise<void>
export function pause(ms: number): Promise<void>
export function takeLock(
  name: string,
): Promise<{ held: true; release: () => Promise<void> } | { held: false; by: number }>
