/**
 * The adaptive Huffman code of lzhuf.c (Okumura, Yoshizaki, Tagawa): 314 characters, 256 octets and the lengths 3 to 60 of
 * what is said again; frequencies halved when their sum reaches 8000 hex. Coder and decoder keep the same tree.
 */
export const CHARACTERS = 314;
/** Nodes of the tree, and the number of its root. */
const NODES = CHARACTERS * 2 - 1;
const ROOT = NODES - 1;
const REBUILT_AT = 0x8000;
/** Stands behind the root, higher than every frequency. */
const SENTINEL = 0xffff;

export class AdaptiveTree {
  private readonly frequency = new Uint16Array(NODES + 1);
  /** Of a node: its parent. Of NODES + character: the leaf's place. */
  private readonly parent = new Uint16Array(NODES + CHARACTERS);
  /** Of an inner node: the first of its two sons. Of a leaf: NODES + character. */
  private readonly son = new Uint16Array(NODES);

  constructor() {
    for (let i = 0; i < CHARACTERS; i++) {
      this.frequency[i] = 1;
      this.son[i] = i + NODES;
      this.parent[i + NODES] = i;
    }
    for (let i = 0, j = CHARACTERS; j <= ROOT; i += 2, j++) this.join(i, j);
    this.frequency[NODES] = SENTINEL;
  }

  /** Walks from the root by the bits that are read. Undefined when they run out. */
  read(bit: () => 0 | 1 | undefined): number | undefined {
    let node = this.son[ROOT] as number;
    while (node < NODES) {
      const turn = bit();
      if (turn === undefined) return undefined;
      node = this.son[node + turn] as number;
    }
    return node - NODES;
  }

  /** The code of a character, from the root on: bits written by the function, at most a few dozen. */
  write(character: number, bit: (one: number) => void): void {
    const turns: number[] = [];
    for (
      let node = this.parent[character + NODES] as number;
      node !== ROOT;
      node = this.parent[node] as number
    )
      turns.push(node & 1);
    for (let i = turns.length - 1; i >= 0; i--) bit(turns[i] as number);
  }

  /** One more of this character: the tree is put in order again. */
  count(character: number): void {
    if (this.frequency[ROOT] === REBUILT_AT) this.rebuild();
    for (let node = this.parent[character + NODES] as number; ; node = this.parent[node] as number) {
      const more = ++(this.frequency as { [at: number]: number })[node]!;
      if (more > (this.frequency[node + 1] as number)) node = this.raise(node, more);
      if (node === ROOT) return;
    }
  }

  /** Swaps the node with the last one of lower frequency, so that frequencies stay in order. */
  private raise(node: number, more: number): number {
    const { frequency, son } = this;
    let other = node + 1;
    while (more > (frequency[other + 1] as number)) other++;
    frequency[node] = frequency[other] as number;
    frequency[other] = more;
    const [mine, theirs] = [son[node] as number, son[other] as number];
    this.settle(mine, other);
    this.settle(theirs, node);
    return other;
  }

  private settle(below: number, at: number): void {
    this.son[at] = below;
    this.parent[below] = at;
    if (below < NODES) this.parent[below + 1] = at;
  }

  private join(first: number, at: number): void {
    this.frequency[at] = (this.frequency[first] as number) + (this.frequency[first + 1] as number);
    this.settle(first, at);
  }

  /** Halves the frequencies of the leaves, and builds the tree over them anew. */
  private rebuild(): void {
    const { frequency, son } = this;
    let leaves = 0;
    for (let i = 0; i < NODES; i++) {
      if ((son[i] as number) < NODES) continue;
      frequency[leaves] = ((frequency[i] as number) + 1) >> 1;
      son[leaves++] = son[i] as number;
    }
    for (let first = 0, at = CHARACTERS; at < NODES; first += 2, at++) {
      const sum = (frequency[first] as number) + (frequency[first + 1] as number);
      let place = at;
      while (sum < (frequency[place - 1] as number)) place--;
      frequency.copyWithin(place + 1, place, at);
      son.copyWithin(place + 1, place, at);
      frequency[place] = sum;
      son[place] = first;
    }
    for (let i = 0; i < NODES; i++) this.settle(son[i] as number, i);
  }
}
