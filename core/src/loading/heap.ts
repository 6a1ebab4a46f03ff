/** Gives the least first. */
export class Heap<Item> {
  private readonly items: Item[] = [];

  constructor(private readonly compare: (a: Item, b: Item) => number) {}

  add(item: Item): void {
    const { items } = this;
    let at = items.push(item) - 1;
    while (at > 0) {
      const above = (at - 1) >> 1;
      if (this.compare(items[above], item) <= 0) break;
      items[at] = items[above];
      at = above;
    }
    items[at] = item;
  }

  take(): Item | undefined {
    const { items } = this;
    const first = items[0];
    const last = items.pop();
    if (items.length === 0 || last === undefined) return first;
    let at = 0;
    for (;;) {
      let below = 2 * at + 1;
      if (below >= items.length) break;
      if (below + 1 < items.length && this.compare(items[below + 1], items[below]) < 0) below++;
      if (this.compare(items[below], last) >= 0) break;
      items[at] = items[below];
      at = below;
    }
    items[at] = last;
    return first;
  }
}
