import { TextDecoder, TextEncoder } from 'node:util';
import { TestEnvironment } from 'jest-environment-jsdom';

/** A browser as jsdom has it, with what browsers have and it leaves out. */
export default class Browser extends TestEnvironment {
  async setup() {
    await super.setup();
    // One that makes objects of this window: those of another are equal to none here.
    this.global.structuredClone = this.global.eval(`(function clone(value) {
      if (Array.isArray(value)) return value.map(clone);
      if (value === null || typeof value !== 'object') return value;
      return Object.fromEntries(Object.entries(value).map(([name, part]) => [name, clone(part)]));
    })`);
    Object.assign(this.global, { TextEncoder, TextDecoder, Request: globalThis.Request });
    // Nothing is laid out, so there is nothing to scroll.
    this.global.Element.prototype.scrollIntoView = () => undefined;
    // As high as a window, and a row as high as a row, so that rows of a list are in sight.
    const { Element, Event, HTMLElement, queueMicrotask } = this.global;
    const height = {
      get() {
        return this.tagName === 'TR' ? 44 : 800;
      },
    };
    Object.defineProperty(Element.prototype, 'clientHeight', height);
    Object.defineProperty(HTMLElement.prototype, 'offsetHeight', height);
    // What is longer than that is scrolled.
    Object.defineProperty(Element.prototype, 'scrollHeight', { value: 100_000 });
    Element.prototype.scrollTo = function scrollTo({ top }) {
      this.scrollTop = top;
      queueMicrotask(() => this.dispatchEvent(new Event('scroll')));
    };
    // Keys are struck as far apart as fingers strike them, however fast a test goes on; a test of scans stamps its own.
    const stamps = new WeakMap();
    let clock = 1000;
    Object.defineProperty(Event.prototype, 'timeStamp', {
      get() {
        if (!stamps.has(this)) stamps.set(this, (clock += 60));
        return stamps.get(this);
      },
    });
    this.global.IntersectionObserver = class {
      observe() {}
      disconnect() {}
    };
  }
}
