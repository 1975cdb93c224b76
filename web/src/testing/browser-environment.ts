import JsdomEnvironment from 'jest-environment-jsdom';

/** jsdom with what browsers have and it lacks. MessageChannel stays out on purpose: with it Jest never exits. */
export default class BrowserEnvironment extends JsdomEnvironment {
  override async setup(): Promise<void> {
    await super.setup();
    Object.assign(this.global, {
      TextEncoder,
      TextDecoder,
      fetch,
      AbortController,
      AbortSignal,
      Request,
      Response,
      Headers,
      ReadableStream,
      structuredClone,
      ResizeObserver: class {
        observe(): void {}
        unobserve(): void {}
        disconnect(): void {}
      },
    });
  }
}
