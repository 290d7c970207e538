import { TestEnvironment } from 'jest-environment-jsdom';

/** A page for tests of components, with what every browser has and jsdom lacks. */
export default class PageEnvironment extends TestEnvironment {
  async setup() {
    await super.setup();
    for (const name of ['TextEncoder', 'TextDecoder', 'structuredClone']) this.global[name] = globalThis[name];
    // Nothing is drawn.
    this.global.HTMLCanvasElement.prototype.getContext = () => null;
  }
}
