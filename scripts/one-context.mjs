import vm from 'node:vm';
import { TestEnvironment } from 'jest-environment-node';

/**
 * Tests run in the one context of their process. Jest gives each file a context of its own, in which every mention of Math or
 * Float64Array goes by way of an interceptor: code that does nothing but numbers takes three times as long there. Modules are
 * still each file's own; what a file adds to the globals goes with it.
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
    this.before = new Set(Reflect.ownKeys(globalThis));
    const { projectConfig } = config;
    this.fakeTimersModern = new this.fakeTimersModern.constructor({
      config: projectConfig,
      global: globalThis,
    });
    this.moduleMocker = new this.moduleMocker.constructor(globalThis);
  }

  async teardown() {
    await super.teardown();
    for (const key of Reflect.ownKeys(globalThis))
      if (!this.before.has(key) && Reflect.getOwnPropertyDescriptor(globalThis, key)?.configurable)
        Reflect.deleteProperty(globalThis, key);
  }
}
