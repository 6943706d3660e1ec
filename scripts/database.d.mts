export interface RunningDatabase {
  url: string
  socket: string
  files: string
  pid: number
  stop(): Promise<void>
  kill(): Promise<void>
}
export function startDatabase(
  dataDir: string,
  options?: {
    say?: (line: string) => void
    signal?: AbortSignal
    onExit?: (how: string) => void
    wrap?: string[]
  },
): Promise<RunningDatabase>
export const INCOMING: string
export const OUTGOING: string
export function answers(socketPath: string): Promise<boolean>
export function privateUrl(dataDir: string): string
export function findProgram(program: string): string | undefined
export function installPackages(packages: string[], say: (line: string) => void, signal?: AbortSignal): Promise<void>
