/** What whoever follows the server's news hears. */
export type Word = { is: 'open' } | { is: 'down' } | { is: 'news'; batches: string[] };
export type Follower = (word: Word) => void;
export type Line = Pick<EventSource, 'close' | 'readyState' | 'addEventListener'>;

/** A line that the server refused does not try again by itself. */
const AGAIN_AFTER_MS = 3000;
const CLOSED = 2;

/** One line to the server for all who follow its news; it is there while anybody does. */
export class SharedLine {
  private readonly followers = new Set<Follower>();
  private line: Line | null = null;
  private isOpen = false;
  private again: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly openLine: () => Line) {}

  /** Who comes while the line is open hears so at once. */
  follow(follower: Follower): void {
    this.followers.add(follower);
    if (this.line === null) this.open();
    else if (this.isOpen) follower({ is: 'open' });
  }

  leave(follower: Follower): void {
    this.followers.delete(follower);
    if (this.followers.size > 0) return;
    clearTimeout(this.again);
    this.line?.close();
    this.line = null;
    this.isOpen = false;
  }

  private open(): void {
    const line = this.openLine();
    this.line = line;
    line.addEventListener('open', () => {
      this.isOpen = true;
      this.tell({ is: 'open' });
    });
    line.addEventListener('error', () => {
      this.isOpen = false;
      this.tell({ is: 'down' });
      if (line.readyState !== CLOSED || this.line !== line) return;
      clearTimeout(this.again);
      this.again = setTimeout(() => this.open(), AGAIN_AFTER_MS);
    });
    line.addEventListener('news', (event) => {
      const { batches } = JSON.parse((event as MessageEvent<string>).data) as { batches: string[] };
      this.tell({ is: 'news', batches });
    });
  }

  private tell(word: Word): void {
    for (const follower of this.followers) follower(word);
  }
}
