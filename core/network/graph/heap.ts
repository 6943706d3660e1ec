/** A queue of node numbers by key, smallest first, whose keys may be lowered: a heap of four branches on typed arrays. */
export class NodeHeap {
  private readonly nodes: Uint32Array
  private readonly keys: Float64Array
  /** Where each node is in the heap, plus one; 0 when it is not. */
  private readonly at: Uint32Array
  size = 0

  constructor(nodeCount: number) {
    this.nodes = new Uint32Array(nodeCount)
    this.keys = new Float64Array(nodeCount)
    this.at = new Uint32Array(nodeCount)
  }

  clear(): void {
    for (let i = 0; i < this.size; i++) this.at[this.nodes[i]] = 0
    this.size = 0
  }

  /** The smallest key. Only while something is in the heap. */
  get least(): number {
    return this.keys[0]
  }

  /** Puts a node in, or lowers its key. A key higher than the node has is passed over. */
  push(node: number, key: number): void {
    const { nodes, keys, at } = this
    let i = at[node] - 1
    if (i < 0) i = this.size++
    else if (keys[i] <= key) return
    while (i > 0) {
      const up = (i - 1) >> 2
      if (keys[up] <= key) break
      keys[i] = keys[up]
      nodes[i] = nodes[up]
      at[nodes[i]] = i + 1
      i = up
    }
    keys[i] = key
    nodes[i] = node
    at[node] = i + 1
  }

  /** Takes out the node with the smallest key. Only while something is in the heap. */
  pop(): number {
    const { nodes, keys, at } = this
    const top = nodes[0]
    at[top] = 0
    const size = --this.size
    if (size === 0) return top
    const node = nodes[size]
    const key = keys[size]
    let i = 0
    for (;;) {
      const low = 4 * i + 1
      if (low >= size) break
      const end = low + 4 < size ? low + 4 : size
      let least = low
      for (let k = low + 1; k < end; k++) if (keys[k] < keys[least]) least = k
      if (keys[least] >= key) break
      keys[i] = keys[least]
      nodes[i] = nodes[least]
      at[nodes[i]] = i + 1
      i = least
    }
    keys[i] = key
    nodes[i] = node
    at[node] = i + 1
    return top
  }
}
