/**
 * A list as told to somebody who knows the one before: its members in order, runs of those that were in the list before
 * as where the run began there and how long it is.
 */
export type ListNews<T> = readonly (T | readonly [from: number, count: number])[]

/** Tells of a list what is other than in the one before; members are the same when they are the same object. */
export class ListTeller<T extends object> {
  private before = new Map<T, number>()

  news(list: readonly T[]): ListNews<T> {
    const news: (T | [from: number, count: number])[] = []
    let run: [from: number, count: number] | undefined
    for (const member of list) {
      const was = this.before.get(member)
      if (was === undefined) {
        news.push(member)
        run = undefined
      } else if (run && was === run[0] + run[1]) run[1]++
      else news.push((run = [was, 1]))
    }
    this.before = new Map(list.map((member, k) => [member, k]))
    return news
  }
}

/** The list that is told of. @param before the list that was told of before */
export function heard<T extends object>(before: readonly T[], news: ListNews<T>): readonly T[] {
  // Where all is as it was the list itself is: nobody need look at it again.
  if (news.length === 1 && Array.isArray(news[0]) && news[0][0] === 0 && news[0][1] === before.length) return before
  return news.flatMap((entry) =>
    Array.isArray(entry) ? before.slice(entry[0], (entry[0] as number) + (entry[1] as number)) : [entry as T],
  )
}
