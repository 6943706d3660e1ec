export interface RunningDatabase {
  url: string
  port: number
  stop(): Promise<void>
  kill(): Promise<void>
}
export function startDatabase(
  dataDir: string,
  options?: { say?: (line: string) => void; port?: number },
): Promise<RunningDatabase>
export function freePort(): Promise<number>
export function findProgram(program: string): string | undefined
export function installPackages(packages: string[], say: (line: string) => void): void
