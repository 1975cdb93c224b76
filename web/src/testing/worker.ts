/** Stands for every web worker: what it is asked is answered after the page has drawn, by what a test sets, unless it was ended. */
export default class TestWorker {
  static answer: (question: never) => unknown = () => undefined;
  onmessage: ((message: { data: unknown }) => void) | null = null;
  private over = false;

  postMessage(question: unknown): void {
    setTimeout(() => {
      const data = TestWorker.answer(question as never);
      if (!this.over && data !== undefined) this.onmessage?.({ data });
    });
  }

  terminate(): void {
    this.over = true;
  }
}
