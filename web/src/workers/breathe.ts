/** What lets waiting messages into a worker; quicker than a timer. */
export function makeBreathe(): () => Promise<void> {
  const pause = new MessageChannel()
  /** Those who are letting messages in: the survey, the trial of fixes and a rehearsal may all be. */
  const waiting: (() => void)[] = []
  pause.port1.onmessage = () => waiting.shift()?.()
  return () =>
    new Promise<void>((resolve) => {
      waiting.push(resolve)
      pause.port2.postMessage(0)
    })
}
