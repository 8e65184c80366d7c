import { TextDecoder, TextEncoder } from 'node:util';
import { TestEnvironment } from 'jest-environment-jsdom';

/** A browser as jsdom has it, with what browsers have and it leaves out. */
export default class Browser extends TestEnvironment {
  async setup() {
    await super.setup();
    Object.assign(this.global, { TextEncoder, TextDecoder, structuredClone: globalThis.structuredClone, Request: globalThis.Request });
    // Nothing is laid out, so there is nothing to scroll.
    this.global.Element.prototype.scrollIntoView = () => undefined;
  }
}
