import { TestEnvironment } from 'jest-environment-jsdom';

/** A page for tests of components, with what every browser has and jsdom lacks. */
export default class PageEnvironment extends TestEnvironment {
  async setup() {
    await super.setup();
    Object.assign(this.global, { TextEncoder, TextDecoder, structuredClone, Uint8Array, fetch, Request, Response });
    // Nothing is drawn.
    this.global.HTMLCanvasElement.prototype.getContext = () => null;
  }
}
