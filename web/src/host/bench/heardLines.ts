/** What simulated gear was sent: the newest line first, and only so many. */
export class HeardLines {
  readonly lines: string[] = [];

  constructor(private readonly most: number) {}

  add(words: string): void {
    this.lines.unshift(words);
    this.lines.length = Math.min(this.lines.length, this.most);
  }
}
