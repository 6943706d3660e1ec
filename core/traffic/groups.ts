/** Numbers from 0 on that are put together, two by two (disjoint sets, Galler and Fischer 1964). */
export class Groups {
  private readonly parent: number[]

  constructor(count: number) {
    this.parent = Array.from({ length: count }, (_, k) => k)
  }

  /** The number that stands for the group of one. */
  of(k: number): number {
    let root = k
    while (this.parent[root] !== root) root = this.parent[root]
    while (this.parent[k] !== root) [this.parent[k], k] = [root, this.parent[k]]
    return root
  }

  put(a: number, b: number): void {
    this.parent[this.of(b)] = this.of(a)
  }
}
