import { createServer, connect, type AddressInfo, type Server, type Socket } from 'node:net';

/**
 * A line to a database or a server that a test can cut, make slow, or make swallow everything. For a browser too: what it is told
 * of routes or of being offline may end a moment before the page it is told for.
 */
export class CutLine {
  private readonly pairs = new Set<[Socket, Socket]>();
  private isCut = false;
  private swallowing = false;
  private held: (() => void)[] | null = null;
  private readonly server: Server;

  private constructor(target: URL) {
    this.server = createServer((near) => {
      if (this.isCut) {
        near.destroy();
        return;
      }
      const far = connect(Number(target.port), target.hostname);
      const pair: [Socket, Socket] = [near, far];
      this.pairs.add(pair);
      for (const [from, to] of [pair, [far, near]] as const) {
        from.on('data', (data) => {
          if (this.held) this.held.push(() => to.write(data));
          else if (!this.swallowing) to.write(data);
        });
        from.on('error', () => undefined);
        from.on('close', () => {
          to.destroy();
          this.pairs.delete(pair);
        });
      }
    });
  }

  /** A line to what is at an address; gives it and the address that goes over it. */
  static async to(target: string): Promise<{ line: CutLine; url: string }> {
    const url = new URL(target);
    const line = new CutLine(new URL(target));
    await new Promise<void>((resolve) => line.server.listen(0, '127.0.0.1', resolve));
    url.port = String((line.server.address() as AddressInfo).port);
    return { line, url: url.href };
  }

  /** Nothing is open and nothing can be opened, until it is mended. */
  cut(): void {
    this.isCut = true;
    this.drop();
  }

  mend(): void {
    this.isCut = false;
  }

  /** Everything sent is lost from now on, and nobody is told: as when a switch dies. */
  swallow(): void {
    this.swallowing = true;
  }

  /** New connections go through again; what was open is lost for good. */
  heal(): void {
    this.swallowing = false;
  }

  /** What is sent waits on the way, until it is let through. */
  hold(): void {
    this.held = [];
  }

  letThrough(): void {
    const { held } = this;
    this.held = null;
    for (const send of held ?? []) send();
  }

  /** Connections that are open, or being made. */
  get open(): number {
    return this.pairs.size;
  }

  async close(): Promise<void> {
    this.drop();
    await new Promise((resolve) => this.server.close(resolve));
  }

  private drop(): void {
    for (const [near, far] of this.pairs) {
      near.destroy();
      far.destroy();
    }
  }
}
