import vm from 'node:vm';
import { TestEnvironment } from 'jest-environment-node';

/**
 * Tests run in the one context of their process. Jest gives each file a context of its own, in which every mention of Math or
 * Float64Array goes by way of an interceptor: code that does nothing but numbers takes three times as long there. Modules are
 * still each file's own; what a file adds to the globals, or sets anew, goes with it.
 */
const shared = new WeakSet();
const compile = vm.compileFunction;
vm.compileFunction = (code, parameters, options) => {
  if (!shared.has(options?.parsingContext)) return compile(code, parameters, options);
  const { parsingContext: _, ...rest } = options;
  return compile(code, parameters, rest);
};

export default class OneContext extends TestEnvironment {
  constructor(config, context) {
    super(config, context);
    shared.add(this.context);
    this.global = globalThis;
    this.before = globalsNow();
    const { projectConfig } = config;
    this.fakeTimersModern = new this.fakeTimersModern.constructor({
      config: projectConfig,
      global: globalThis,
    });
    this.moduleMocker = new this.moduleMocker.constructor(globalThis);
  }

  async teardown() {
    await super.teardown();
    for (const [key, now] of globalsNow()) {
      const was = this.before.get(key);
      if (!now.configurable || (was && was.value === now.value && was.get === now.get)) continue;
      if (was) Reflect.defineProperty(globalThis, key, was);
      else Reflect.deleteProperty(globalThis, key);
    }
  }
}

const globalsNow = () =>
  new Map(Reflect.ownKeys(globalThis).map((key) => [key, Reflect.getOwnPropertyDescriptor(globalThis, key)]));
